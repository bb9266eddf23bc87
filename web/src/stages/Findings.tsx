import { Box, Typography } from "@mui/material";

import type { Finding } from "../api";

const LEVELS = { stop: "Stops", attention: "Attention", note: "Note" } as const;

/** Findings by weight and words: what stops, what is likely a mistake, what is worth knowing. */
export function Findings({ findings, none }: { findings: Finding[]; none?: string }) {
  if (findings.length === 0) return none ? <Typography sx={{ mt: 1 }}>{none}</Typography> : null;
  return (
    <Box component="ul" aria-label="Findings" sx={{ listStyle: "none", m: 0, p: 0, mt: 1 }}>
      {findings.map((f) => (
        <Box
          component="li"
          key={f.code}
          data-code={f.code}
          sx={{
            borderLeft: f.level === "note" ? 1 : 4,
            borderColor: f.level === "note" ? "text.secondary" : "text.primary",
            pl: 1,
            mb: 0.75,
            typography: "body2",
          }}
        >
          <Box component="span" sx={{ fontWeight: 700 }}>
            {LEVELS[f.level]}.
          </Box>{" "}
          {f.text.text}
        </Box>
      ))}
    </Box>
  );
}
