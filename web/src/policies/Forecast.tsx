import { Typography } from "@mui/material";

import type { PolicyReport } from "../api";
import { bytes, Explained } from "../ui";

/** How many of what were compared. */
function compared({ objects, of }: { objects: number; of?: "objects" | "pixels" }): string {
  const what = of === "pixels" ? "pixel" : "object";
  return objects === 1 ? `1 ${what}` : `${objects.toLocaleString("en")} ${what}s`;
}

/** What a dry run expects of the result: its size, and how far colours move. */
export function Forecast({ report }: { report: PolicyReport }) {
  const { size_forecast: size, colour } = report;
  if (size === null && !colour) return null;
  return (
    <Typography role="note" aria-label="What to expect" sx={{ mt: 1 }}>
      {size !== null && (
        <Explained of="size_forecast">
          {bytes(report.size_before)} will be about <b>{bytes(size)}</b>.
        </Explained>
      )}{" "}
      {colour && (
        <Explained of="object_de00">
          Colours move by <b>{colour.mean.toFixed(1)} ΔE00</b> in the mean, 95 % of{" "}
          {compared(colour)} by less than {colour.p95.toFixed(1)}, at most{" "}
          {colour.greatest.toFixed(1)}
          {colour.unknown > 0 ? `; of ${colour.unknown} it is not known` : ""}.
        </Explained>
      )}
    </Typography>
  );
}
