import { Box, Button, Typography } from "@mui/material";

import type { BuildReport } from "../api";
import { Swatch } from "../plots/Swatch";
import { Explained } from "../ui";
import { cells } from "../ui/cells";
import { labText, number } from "../ui/numbers";

interface Props {
  report: BuildReport;
  /** Build once more, with the readings used or left out. */
  onAgain?: (useAll: boolean) => void;
}

/** Readings that all others contradict: which, what was read there and what was expected. */
export function Contradicted({ report, onAgain }: Props) {
  const found = report.misread ?? [];
  const used = report.settings.use_all ?? false;
  if (report.misread == null) {
    return (
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        There are too few patches to tell whether any were misread.
      </Typography>
    );
  }
  if (!found.length) return null;
  const several = found.length > 1;
  return (
    <Box role="group" aria-label="Contradicted readings" sx={{ mb: 2 }}>
      <Typography sx={{ fontWeight: 650 }}>
        <Explained of="misread">
          {found.length} {several ? "readings do" : "reading does"} not agree with the others
        </Explained>
        {used
          ? " and are used all the same."
          : several
            ? " and were left out."
            : " and was left out."}
      </Typography>
      <Box
        sx={{ maxHeight: 220, overflow: "auto", my: 0.75 }}
        tabIndex={0}
        role="group"
        aria-label="Their figures"
      >
        <Box component="table" sx={cells} aria-label="Contradicted readings">
          <thead>
            <tr>
              <th>Row</th>
              <th>Patch</th>
              <th>Inks, %</th>
              <th>Read</th>
              <th>Expected</th>
              <th>ΔE00</th>
            </tr>
          </thead>
          <tbody>
            {found.map((one) => (
              <tr key={one.row} data-explained="misread">
                <td>{one.row}</td>
                <td>{one.name}</td>
                <td>{one.device.map((v) => number(v, 0)).join(" ")}</td>
                <td>
                  <Swatch lab={one.read} />
                  {labText(one.read)}
                </td>
                <td>
                  <Swatch lab={one.expected} />
                  {labText(one.expected)}
                </td>
                <td>{number(one.de00, 1)}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
      {onAgain && (
        <Button onClick={() => onAgain(!used)}>
          {used ? "Build again without them" : "Build again with them"}
        </Button>
      )}
    </Box>
  );
}
