import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { OutputPolicy } from "../api";
import { NewConditionDialog } from "../conditions";
import { conditionsQuery, profilesQuery } from "../queries/conditions";
import { conditionGroups, Explained, Pick } from "../ui";

interface Props {
  policy: OutputPolicy;
  onChange: (policy: OutputPolicy) => void;
}

const SPACES = { RGB: "RGB", CMYK: "CMYK", grey: "GRAY" } as const;
const NEW = "new";
type Space = keyof typeof SPACES;
const USUAL: Record<Space, string> = {
  RGB: "sRGB",
  CMYK: "the destination",
  grey: "grey, gamma 2.2",
};

/** Where the colours go, and what numbers mean that come without a profile. */
export function Destination({ policy, onChange }: Props) {
  const [making, setMaking] = useState(false);
  const conditions = useQuery(conditionsQuery);
  const profiles = useQuery(profilesQuery);
  const own = conditions.data?.find((c) => c.profile.sha256 === policy.destination);
  // Numbers of CMYK mean the destination's inks only where it has these four.
  const inks = own?.profile.inks?.channels.map((c) => c.name) ?? [];
  const meant = own === undefined || ["C", "M", "Y", "K"].every((n) => inks.includes(n));
  const sources = (space: Space) => ({
    "": space === "CMYK" && !meant ? "nothing, it can only be left" : USUAL[space],
    ...Object.fromEntries(
      (profiles.data ?? [])
        .filter((p) => p.colour_space === SPACES[space] && p.parts.includes("source"))
        .map((p) => [p.sha256, p.description]),
    ),
  });
  const put = (space: Space, reference: string) => {
    const others = Object.entries(policy.sources).filter(([key]) => key !== space);
    onChange({
      ...policy,
      sources: Object.fromEntries(reference ? [...others, [space, reference]] : others),
    });
  };
  const row = { display: "flex", alignItems: "center", minHeight: 30, gap: 1 };
  return (
    <>
      <Typography variant="h2">Destination</Typography>
      <Box sx={row}>
        <Pick
          label="Destination condition"
          width="100%"
          value={policy.destination}
          options={[
            ...(own ? [] : [[policy.destination, "another profile"] as const]),
            [NEW, "a new condition…"],
          ]}
          groups={conditionGroups(conditions.data, (c) => c.profile.sha256)}
          onChange={(destination) => {
            if (destination === NEW) setMaking(true);
            else onChange({ ...policy, destination });
          }}
        />
        <NewConditionDialog
          open={making}
          onClose={() => setMaking(false)}
          onMade={(made) => {
            setMaking(false);
            onChange({ ...policy, destination: made.profile.sha256 });
          }}
        />
      </Box>
      <Typography variant="h2" sx={{ mt: 1 }}>
        <Explained text="What numbers mean that come without a profile, or whose profile is overruled.">
          Without a profile
        </Explained>
      </Typography>
      {(Object.keys(SPACES) as Space[]).map((space) => (
        <Box key={space} sx={row}>
          <Typography sx={{ width: 52 }}>{space}</Typography>
          <Pick
            label={`Source for ${space}`}
            width="100%"
            value={policy.sources[space] ?? ""}
            options={sources(space)}
            onChange={(reference) => put(space, reference)}
          />
        </Box>
      ))}
    </>
  );
}
