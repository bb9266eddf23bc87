import { Box, Typography } from "@mui/material";

import type { Examination } from "../api";

const WEIGHT = { error: "Cannot be trusted", warning: "Look at it", note: "To know" } as const;

/** What is wrong with it, in sentences, the grave ones first. */
export function Wrong({ found }: { found: Examination }) {
  if (found.findings.length === 0)
    return (
      <Typography role="status">
        Nothing was found wrong: neither in its structure nor in greys, totals, paper and round
        trip.
      </Typography>
    );
  return (["error", "warning", "note"] as const).map((weight) => {
    const said = found.findings.filter((f) => f.severity === weight);
    return said.length === 0 ? null : (
      <Box key={weight} role="group" aria-label={WEIGHT[weight]} sx={{ mb: 1.5 }}>
        <Typography variant="h3">{WEIGHT[weight]}</Typography>
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {said.map((f, i) => (
            <Typography component="li" key={i} sx={{ fontWeight: weight === "error" ? 650 : 450 }}>
              {f.sentence.text}
            </Typography>
          ))}
        </Box>
      </Box>
    );
  });
}
