import { Box } from "@mui/material";

import { labColour } from "../plots/labColour";

interface Props {
  aim: readonly number[];
  printed: readonly number[];
  /** Edge of each of the two fields, pixels. */
  size?: number;
}

/** The colour asked for and its print, edge to edge, so that the eye sees the step between them. */
export const Pair = ({ aim, printed, size = 26 }: Props) => (
  <Box
    aria-hidden
    component="span"
    sx={{
      display: "inline-flex",
      flexShrink: 0,
      border: 1,
      borderColor: "text.secondary",
      height: size,
    }}
  >
    <Box component="span" sx={{ width: size, bgcolor: labColour(aim) }} />
    <Box component="span" sx={{ width: size, bgcolor: labColour(printed) }} />
  </Box>
);
