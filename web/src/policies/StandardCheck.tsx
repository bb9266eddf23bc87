import { Box, Typography } from "@mui/material";

import type { PolicyReport } from "../api";

interface Props {
  check: NonNullable<PolicyReport["pdfx"]>;
  /** Whether the document is judged as it came, before the policy. */
  before?: boolean;
}

const MOST = 40;

/** How a document or a result keeps a part of PDF/X, and which rules it breaks where. */
export function StandardCheck({ check, before }: Props) {
  const broken = check.breaches.length;
  const whose = before ? "As it came, the document" : "The result";
  const rules = broken === 1 ? "one rule" : `${broken} rules`;
  const said = check.marked
    ? `${whose} is marked as ${check.standard}; nothing was found that breaks it.`
    : broken === 0
      ? `${whose} breaks nothing of ${check.standard} that is looked at.`
      : `${whose} does not keep ${rules} of ${check.standard}${before ? "" : ", and is not marked as such"}.`;
  const breaches = (
    <>
      {check.breaches.slice(0, MOST).map((b) => (
        <Typography key={b.rule.text + b.text.text} variant="body2">
          <b>{b.rule.text}</b>, {b.where.text}: {b.text.text}
        </Typography>
      ))}
      {broken > MOST && (
        <Typography variant="body2">And {broken - MOST} more, in the report.</Typography>
      )}
    </>
  );
  return (
    <Box
      role="region"
      aria-label={before ? "PDF/X as it came" : "PDF/X of the result"}
      sx={{ borderLeft: 4, borderColor: "text.primary", pl: 1.25, mb: 1.5 }}
    >
      {before && broken > 0 ? (
        <Box component="details" sx={{ "& summary": { cursor: "pointer" } }}>
          <summary>
            <Typography component="span" sx={{ fontWeight: 700 }}>
              {said}
            </Typography>
          </summary>
          {breaches}
        </Box>
      ) : (
        <>
          <Typography sx={{ fontWeight: 700 }}>{said}</Typography>
          {breaches}
        </>
      )}
    </Box>
  );
}
