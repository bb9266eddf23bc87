import { Box, Button, Typography } from "@mui/material";

import { ProblemError } from "../api";

interface Props {
  problem: Error;
  onRetry?: () => void;
  onDismiss?: () => void;
}

/** What went wrong, what it means and what to do: by weight and words, not by colour. */
export function Notice({ problem, onRetry, onDismiss }: Props) {
  const known = problem instanceof ProblemError ? problem.problem : null;
  return (
    <Box
      role="alert"
      sx={{ border: 2, borderColor: "text.primary", bgcolor: "background.paper", p: 1.5, m: 1 }}
    >
      <Typography sx={{ fontWeight: 700 }}>{known?.title ?? problem.message}</Typography>
      {known?.remedy && <Typography sx={{ mt: 0.5 }}>{known.remedy}</Typography>}
      <Box sx={{ display: "flex", gap: 1, mt: onRetry || onDismiss ? 1 : 0 }}>
        {onRetry && <Button onClick={onRetry}>Try again</Button>}
        {onDismiss && <Button onClick={onDismiss}>Close</Button>}
      </Box>
    </Box>
  );
}
