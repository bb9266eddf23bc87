import { Typography } from "@mui/material";

import type { Evenness as Greys } from "../api";
import { Explained } from "./Explained";

/** How evenly inks run along the greys, with a word where that is not even enough. */
export function Evenness({ greys }: { greys: Greys }) {
  const uneven = greys.black_back > 2 || greys.black_step > 2.5;
  return (
    <Typography
      component="span"
      variant="body2"
      data-testid="evenness"
      sx={{ display: "block", mt: 0.5, fontWeight: uneven ? 650 : 400 }}
    >
      <Explained of="evenness">
        {uneven ? "The greys run unevenly" : "The greys run evenly"}
      </Explained>
      : black falls back by {greys.black_back.toFixed(1)} %, its largest step is{" "}
      {greys.black_step.toFixed(1)} %, of any ink {greys.step.toFixed(1)} %.
    </Typography>
  );
}
