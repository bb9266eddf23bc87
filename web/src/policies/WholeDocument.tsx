import { Box, Typography } from "@mui/material";

import type { OutputPolicy } from "../api";
import { ChoiceRow, NumberField, Toggle } from "../ui/controls";
import { Destination } from "./Destination";
import { Images } from "./Images";
import { Standard } from "./Standard";

const GROUP_SPACES: Record<OutputPolicy["group_space"], string> = {
  rules: "as ruled",
  destination: "the destination's",
  keep: "their own",
};

const TRANSFERS: Record<OutputPolicy["transfer"], string> = {
  keep: "as they are",
  apply: "into the colours",
  remove: "taken out",
};

interface Props {
  policy: OutputPolicy;
  onChange: (policy: OutputPolicy) => void;
}

/** Where the colours go, what holds for all objects, and what the result is made for. */
export function WholeDocument({ policy, onChange }: Props) {
  const set = (part: Partial<OutputPolicy>) => onChange({ ...policy, ...part });
  return (
    <Box
      sx={{
        columnCount: 3,
        columnGap: 4,
        mt: 2,
        pt: 1.5,
        borderTop: 1,
        borderColor: "text.primary",
        "& > *": { breakInside: "avoid" },
      }}
    >
      <Destination policy={policy} onChange={onChange} />
      <Typography variant="h2" sx={{ mt: 1.5, mb: 0.5, breakAfter: "avoid" }}>
        For all objects
      </Typography>
      <Toggle
        label="Embedded profiles honoured"
        checked={policy.embedded}
        onChange={(embedded) => set({ embedded })}
        help="Off: the stand-in profiles overrule what is embedded."
      />
      <Toggle
        label="Document's own output intent"
        checked={policy.own_intent}
        onChange={(own_intent) => set({ own_intent })}
        help="Where the document has one, it is the destination."
      />
      <Toggle
        label="Pure black stays"
        checked={policy.pure_black}
        onChange={(pure_black) => set({ pure_black })}
        help="CMYK with black ink alone stays so."
      />
      <Toggle
        label="Greys to black"
        checked={policy.greys_to_black}
        onChange={(greys_to_black) => set({ greys_to_black })}
        help="Equal R, G, B and neutral Lab of text and vectors print in black alone."
      />
      <Toggle
        label="Clean primaries"
        checked={policy.clean}
        onChange={(clean) => set({ clean })}
        help="Pure red, green, blue, cyan, magenta and yellow of text and vectors become clean mixtures of inks."
      />
      <Toggle
        label="100 K overprints"
        checked={policy.overprint_black}
        onChange={(overprint_black) => set({ overprint_black })}
        help="Full black of text and vectors overprints what lies below."
      />
      <NumberField
        label="TAC"
        help="Total area coverage; empty for no limit."
        value={policy.tac}
        unit="%"
        min={50}
        max={400}
        empty="none"
        onRest={(tac) => set({ tac })}
      />
      <Toggle
        label="Enforce it by re-separation"
        checked={policy.tac_action === "enforce"}
        onChange={(on) => set({ tac_action: on ? "enforce" : "report" })}
        help="Off: what is over the limit is only reported."
      />
      <Images policy={policy} set={set} />
      <ChoiceRow
        width={136}
        label="Groups blend in"
        help="What transparency is mixed in. By the destination also pages that name no space."
        value={policy.group_space}
        options={GROUP_SPACES}
        onChange={(group_space) => set({ group_space })}
      />
      <ChoiceRow
        width={136}
        label="Transfer functions"
        help="They change tones on the way to the plates. As they are: they stay, and are named. Into the colours: each is written as it would print through them, within the TAC, and they are taken out."
        value={policy.transfer}
        options={TRANSFERS}
        onChange={(transfer) => set({ transfer })}
      />
      <Toggle
        label="CMYK left goes out bare"
        checked={policy.bare_cmyk ?? false}
        onChange={(bare_cmyk) => set({ bare_cmyk })}
        help="Profiles are taken off CMYK that a rule leaves; its numbers stay."
      />
      <Toggle
        label="Output intent written"
        checked={policy.output_intent}
        onChange={(output_intent) => set({ output_intent })}
        help="Names the printing condition that the document is now made for."
      />
      <Toggle
        label="Profile in it"
        checked={policy.profile_in}
        disabled={!policy.output_intent}
        onChange={(profile_in) => set({ profile_in })}
        help="Off: the output intent has a name only."
      />
      <Toggle
        label="Mirror pages"
        checked={policy.mirror}
        onChange={(mirror) => set({ mirror })}
        help="For transfer printing."
      />
      <Standard policy={policy} set={set} />
    </Box>
  );
}
