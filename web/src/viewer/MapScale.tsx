import { Box } from "@mui/material";

import { DISTANCE_STEPS as STEPS } from "../plots/distance";
import type { Look } from "./look";

/** What a map's shades mean. */
export function MapScale({ look, rule }: { look: Look; rule: number }) {
  if (!look.map) return null;
  const distance = look.map === "distance";
  return (
    <Box
      sx={{ display: "flex", alignItems: "center", gap: 0.75, whiteSpace: "nowrap" }}
      data-testid="map-scale"
    >
      <span>0</span>
      <Box
        aria-hidden
        sx={{
          width: 64,
          height: 9,
          background: distance
            ? `linear-gradient(90deg, ${STEPS.join(", ")})`
            : "linear-gradient(90deg, #ffffff, #282828)",
        }}
      />
      <span>{distance ? "20 ΔE00" : `${rule.toFixed(0)} %`}</span>
      {!distance && (
        <>
          <Box aria-hidden sx={{ width: 11, height: 9, bgcolor: STEPS.at(-1), ml: 0.75 }} />
          <span>over</span>
        </>
      )}
    </Box>
  );
}
