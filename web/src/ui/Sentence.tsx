import { Box } from "@mui/material";
import type { ReactNode } from "react";

import { useAppearance } from "../theme";

/** A plain sentence on what a rule does to this job; experts can hide them all. */
export function Sentence({ children }: { children: ReactNode }) {
  const { sentences } = useAppearance();
  if (!sentences) return null;
  return (
    <Box
      sx={{
        borderLeft: 2,
        borderColor: "text.primary",
        pl: 1.25,
        my: 1,
        typography: "body2",
        color: "text.primary",
      }}
    >
      {children}
    </Box>
  );
}
