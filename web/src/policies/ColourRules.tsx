import { Box, Typography } from "@mui/material";

import type { PolicyReport } from "../api";

/** Which colour rules of PDF/X the result keeps; nothing is claimed beyond them. */
export function ColourRules({ rules }: { rules: NonNullable<PolicyReport["pdfx"]> }) {
  return (
    <Box
      role="region"
      aria-label="Colour rules"
      sx={{ borderLeft: 4, borderColor: "text.primary", pl: 1.25, mb: 1.5 }}
    >
      <Typography sx={{ fontWeight: 700 }}>
        {rules.breaches.length === 0
          ? `The result keeps the colour rules of ${rules.standard}.`
          : `${rules.breaches.length} colour rules of ${rules.standard} are not kept.`}
      </Typography>
      {rules.breaches.map((b) => (
        <Typography key={b.rule + b.text} variant="body2">
          <b>{b.rule}</b>, {b.where}: {b.text}
        </Typography>
      ))}
      <Typography variant="body2" color="text.secondary">
        Only rules about colour are looked at; fonts, boxes and metadata are not.
      </Typography>
    </Box>
  );
}
