import { Box } from "@mui/material";

import { labColour } from "./labColour";

/** A small field of a colour beside its figures. */
export const Swatch = ({ lab, size = 14 }: { lab: readonly number[]; size?: number }) => (
  <Box
    aria-hidden
    component="span"
    sx={{
      display: "inline-block",
      width: size,
      height: size,
      mr: 0.75,
      verticalAlign: "-2px",
      border: 1,
      borderColor: "text.secondary",
      bgcolor: labColour(lab),
    }}
  />
);
