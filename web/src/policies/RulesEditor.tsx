import { Box, Button, ButtonBase, InputBase, Typography } from "@mui/material";

import type { OutputPolicy, PolicyRule } from "../api";
import { Explained, Pick } from "../ui";
import { NumberField, Toggle } from "../ui/controls";
import { Destination } from "./Destination";
import { inserted, unreachable } from "./reach";
import {
  ACTIONS,
  FALLBACKS,
  INTENTS,
  NEW_RULE,
  OBJECTS,
  PDFX,
  SPACES,
  STRETCHES,
  stretchOf,
  vividOf,
} from "./words";

interface Props {
  policy: OutputPolicy;
  onChange: (policy: OutputPolicy) => void;
}

/** The rules in order, the first that fits decides; and what holds for all objects. */
export function RulesEditor({ policy, onChange }: Props) {
  const set = (part: Partial<OutputPolicy>) => onChange({ ...policy, ...part });
  const put = (index: number, part: Partial<PolicyRule>) =>
    set({ rules: policy.rules.map((r, i) => (i === index ? { ...r, ...part } : r)) });
  const move = (index: number, by: number) => {
    const rules = [...policy.rules];
    const [rule] = rules.splice(index, 1);
    if (rule) rules.splice(index + by, 0, rule);
    set({ rules });
  };
  const dead = unreachable(policy.rules);
  const small = {
    fontSize: 12,
    px: 0.75,
    minWidth: 24,
    height: 24,
    border: 1,
    borderColor: "divider",
    "&.Mui-disabled": { opacity: 0.35 },
  };
  return (
    <Box sx={{ border: 1, borderColor: "divider", bgcolor: "background.paper", p: 2 }}>
      <Box component="ol" aria-label="Rules" sx={{ m: 0, p: 0, listStyle: "none" }}>
        <Typography variant="h2" component="li" sx={{ mb: 0.5 }}>
          Rules; the first that fits decides
        </Typography>
        {policy.rules.map((rule, i) => (
          <Box
            component="li"
            key={i}
            aria-label={`Rule ${i + 1}`}
            sx={{
              display: "flex",
              alignItems: "center",
              flexWrap: "wrap",
              gap: 0.75,
              borderTop: 1,
              borderColor: "divider",
              py: 0.5,
            }}
          >
            <Typography sx={{ width: 16, fontWeight: 700 }}>{i + 1}</Typography>
            <Pick
              label="Objects"
              width={118}
              value={rule.objects}
              options={OBJECTS}
              onChange={(objects) => put(i, { objects })}
            />
            <Pick
              label="Colour space"
              width={100}
              value={rule.space}
              options={SPACES}
              onChange={(space) => put(i, { space, spot: "" })}
            />
            {rule.space === "spot" && (
              <InputBase
                value={rule.spot}
                placeholder="all spots"
                inputProps={{ "aria-label": "Name of the spot colour" }}
                onChange={(e) => put(i, { spot: e.target.value })}
                sx={{ fontSize: 12.5, width: 72, borderBottom: 1 }}
              />
            )}
            <Pick
              label="Action"
              width={88}
              value={rule.action}
              options={ACTIONS}
              onChange={(action) => put(i, { action })}
            />
            {rule.action === "convert" && (
              <Pick
                label="Intent"
                width={132}
                value={rule.intent}
                options={INTENTS}
                onChange={(intent) => put(i, { intent })}
              />
            )}
            {rule.action === "convert" && (
              <ButtonBase
                sx={{
                  ...small,
                  fontWeight: 600,
                  ...(rule.bpc && { bgcolor: "text.primary", color: "background.paper" }),
                }}
                aria-pressed={rule.bpc}
                onClick={() => put(i, { bpc: !rule.bpc })}
              >
                BPC
              </ButtonBase>
            )}
            {rule.action === "convert" && rule.intent === "own" && (
              <Pick
                label="Where the object states none"
                width={132}
                value={rule.fallback}
                options={FALLBACKS}
                onChange={(fallback) => put(i, { fallback })}
              />
            )}
            {rule.action === "convert" && (rule.space === "RGB" || rule.space === "all") && (
              <Pick
                label="Stretch of the source"
                width={104}
                value={stretchOf(rule)}
                options={STRETCHES}
                onChange={(stretch) => put(i, { vivid: vividOf(stretch) })}
              />
            )}
            <Box sx={{ flex: 1 }} />
            <ButtonBase
              sx={small}
              aria-label={`Rule ${i + 1} earlier`}
              disabled={i === 0}
              onClick={() => move(i, -1)}
            >
              ↑
            </ButtonBase>
            <ButtonBase
              sx={small}
              aria-label={`Rule ${i + 1} later`}
              disabled={i === policy.rules.length - 1}
              onClick={() => move(i, 1)}
            >
              ↓
            </ButtonBase>
            <ButtonBase
              sx={small}
              aria-label={`Remove rule ${i + 1}`}
              onClick={() => set({ rules: policy.rules.filter((_, k) => k !== i) })}
            >
              ×
            </ButtonBase>
            {(dead[i]?.length ?? 0) > 0 && (
              <Typography
                variant="body2"
                role="note"
                sx={{ width: "100%", pl: 2.5, fontWeight: 650 }}
              >
                Never acts:{" "}
                {dead[i]?.length === 1
                  ? `rule ${dead[i]?.[0]} takes`
                  : `rules ${dead[i]?.join(", ")} take`}{" "}
                all its objects. Move it up.
              </Typography>
            )}
          </Box>
        ))}
        <Box component="li" sx={{ pt: 1, borderTop: 1, borderColor: "divider" }}>
          <Button onClick={() => set({ rules: inserted(policy.rules, NEW_RULE) })}>
            Add a rule
          </Button>
          <Typography variant="body2" sx={{ display: "inline", ml: 1.5 }}>
            What no rule fits is left as it is.
          </Typography>
        </Box>
      </Box>
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
        <Toggle
          label="Reduce fine images"
          checked={policy.resolution.above === "downsample"}
          onChange={(on) =>
            set({ resolution: { ...policy.resolution, above: on ? "downsample" : "report" } })
          }
          help={`Images above ${policy.resolution.high} ppi at their largest size are reduced by a Lanczos filter.`}
        />
        <NumberField
          label="Coarse below"
          help="Images coarser than this are reported."
          value={policy.resolution.low}
          unit="ppi"
          min={0}
          max={10_000}
          onRest={(low) => low !== null && set({ resolution: { ...policy.resolution, low } })}
        />
        <NumberField
          label="Fine above"
          help="Images finer than this are reduced or reported."
          value={policy.resolution.high}
          unit="ppi"
          min={72}
          max={20_000}
          onRest={(high) => high && set({ resolution: { ...policy.resolution, high } })}
        />
        <NumberField
          label="To"
          help="What they are reduced to."
          value={policy.resolution.to}
          unit="ppi"
          min={36}
          max={10_000}
          onRest={(to) => to && set({ resolution: { ...policy.resolution, to } })}
        />
        <Toggle
          label="JPEG for images"
          checked={policy.compression.kind === "jpeg"}
          onChange={(on) =>
            set({ compression: { ...policy.compression, kind: on ? "jpeg" : "lossless" } })
          }
          help={`Quality ${policy.compression.quality}. Off: lossless.`}
        />
        {policy.compression.kind === "jpeg" && (
          <NumberField
            label="Quality"
            help="100 is the largest file with the least loss."
            value={policy.compression.quality}
            unit=""
            min={1}
            max={100}
            onRest={(quality) =>
              quality && set({ compression: { ...policy.compression, quality } })
            }
          />
        )}
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
        <Box sx={{ display: "flex", alignItems: "center", minHeight: 30 }}>
          <Typography sx={{ flex: 1 }}>
            <Explained text="The result is checked against the colour rules of this standard, and what breaks them is listed. Fonts, boxes and metadata are not looked at.">
              Colour rules checked
            </Explained>
          </Typography>
          <Pick
            label="Colour rules checked"
            value={policy.pdfx}
            options={PDFX}
            onChange={(pdfx) => set({ pdfx })}
          />
        </Box>
      </Box>
    </Box>
  );
}
