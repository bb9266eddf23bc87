import { Box, TextField, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { HouseRules, Intent } from "../api";
import { profilesQuery } from "../queries/conditions";
import { Choice, Toggle } from "../ui/controls";
import { INTENT_NAMES } from "../ui/wording";
import { KindsOfWork } from "./KindsOfWork";
import { DIFFERS, MISSING } from "./rules";

const STANDARD: Record<string, Record<string, string>> = {
  RGB: { srgb: "sRGB", oprgb: "opRGB", romm: "ROMM RGB", p3: "P3 D65" },
  GRAY: { grey: "Grey gamma 2.2" },
  CMYK: { "": "None, ask" },
};

/** One set; every change is saved as it is made. */
export function RulesForm({
  rules,
  busy,
  onChange,
}: {
  rules: HouseRules;
  /** A change is on its way: the next would be made of what stands no longer. */
  busy: boolean;
  onChange: (rules: HouseRules) => void;
}) {
  const profiles = useQuery(profilesQuery);
  const [name, setName] = useState(rules.name);
  const options = (space: string) => {
    const own =
      profiles.data?.filter(
        (p) => p.colour_space === space && p.origin !== "standard" && p.parts.includes("source"),
      ) ?? [];
    return {
      ...STANDARD[space],
      ...Object.fromEntries(own.map((p) => [p.sha256, p.description])),
    } as Record<string, string>;
  };
  const put = (part: Partial<HouseRules>) => onChange({ ...rules, ...part });
  const pair = { display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 2 };
  const three = { ...pair, gridTemplateColumns: "1fr 1fr 1fr" };
  return (
    <Box component="form" onSubmit={(e) => e.preventDefault()}>
      <TextField
        label="Name"
        value={name}
        onChange={(e) => setName(e.target.value)}
        onBlur={() => name.trim() && name !== rules.name && put({ name: name.trim() })}
        slotProps={{ htmlInput: { maxLength: 100 } }}
        sx={{ mb: 1.5 }}
      />
      <Typography variant="h2">Default source profiles</Typography>
      <Box sx={three}>
        <Choice
          label="RGB"
          value={rules.rgb}
          options={options("RGB")}
          onChange={(rgb) => put({ rgb })}
        />
        <Choice
          label="Grey"
          value={rules.grey}
          options={options("GRAY")}
          onChange={(grey) => put({ grey })}
        />
        <Choice
          label="CMYK"
          value={rules.cmyk ?? ""}
          options={options("CMYK")}
          onChange={(cmyk) => put({ cmyk: cmyk || null })}
        />
      </Box>
      <Typography variant="h2" sx={{ mt: 2 }}>
        What happens on arrival
      </Typography>
      <Box sx={pair}>
        <Choice
          label="An embedded profile differs from the default"
          value={rules.differs}
          options={DIFFERS}
          onChange={(differs) => put({ differs })}
        />
        <Choice
          label="No profile is embedded"
          value={rules.missing}
          options={MISSING}
          onChange={(missing) => put({ missing })}
        />
      </Box>
      <Typography variant="h2" sx={{ mt: 2 }}>
        How recipes start
      </Typography>
      <Box sx={pair}>
        <Choice<Intent>
          label="Rendering intent"
          value={rules.intent}
          options={INTENT_NAMES}
          onChange={(intent) => put({ intent })}
        />
        <Box sx={{ pt: 3.5 }}>
          <Toggle
            label="Black point compensation"
            help="New recipes lay the artwork's black on the darkest print."
            checked={rules.bpc}
            onChange={(bpc) => put({ bpc })}
          />
        </Box>
      </Box>
      <Typography variant="h2" sx={{ mt: 2 }}>
        Where work goes
      </Typography>
      <Box component="fieldset" disabled={busy} sx={{ border: 0, m: 0, p: 0, minWidth: 0 }}>
        <KindsOfWork work={rules.work ?? []} onChange={(work) => put({ work })} />
      </Box>
    </Box>
  );
}
