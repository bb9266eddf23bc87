import { Box, Tooltip } from "@mui/material";
import type { ReactNode } from "react";

/** A figure that says on hover or focus how it was computed and why it matters. */
export function Explained({ text, children }: { text: string; children: ReactNode }) {
  return (
    <Tooltip title={text} describeChild>
      <Box component="span" tabIndex={0} sx={{ cursor: "help" }}>
        {children}
      </Box>
    </Tooltip>
  );
}
