import { Box, Button, Typography } from "@mui/material";
import { type KeyboardEvent, useRef } from "react";
import { Link } from "react-router";

import type { Followed, FollowedRow } from "../api";
import { distanceColour } from "../plots/distance";
import { labColour } from "../plots/labColour";
import { labText, number } from "../ui";

interface Props {
  label: string;
  rows: readonly FollowedRow[];
  /** The step whose colours it shows, or null for how far the two compared steps are apart. */
  step: number | null;
  height: number;
  chosen: number;
  onChoose: (row: number) => void;
}

export const BAR = 26;

/** The outermost colours of the first step's device beside the picture, as a step makes them. */
export function DeviceBar({ label, rows, step, height, chosen, onChoose }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const go = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    onChoose(Math.min(rows.length - 1, Math.max(0, chosen + by)));
  };
  const id = (row: number) => `${label}-${row}`.replaceAll(" ", "-");
  return (
    <Box
      ref={box}
      role="listbox"
      aria-label={label}
      aria-activedescendant={id(chosen)}
      tabIndex={0}
      onKeyDown={go}
      sx={{
        width: BAR,
        height,
        flex: "none",
        bgcolor: "#808080",
        display: "flex",
        flexDirection: "column",
        p: "4px",
        pr: 0,
        "&:focus-visible": { outlineOffset: -2 },
      }}
    >
      {rows.map((row) => {
        const lab = step === null ? null : row.lab[step];
        const colour =
          step === null
            ? row.difference === null
              ? "transparent"
              : distanceColour(row.difference)
            : lab
              ? labColour(lab)
              : "transparent";
        return (
          <Box
            key={row.row}
            id={id(row.row)}
            role="option"
            aria-selected={row.row === chosen}
            aria-label={row.name}
            title={row.name}
            onClick={() => onChoose(row.row)}
            sx={{
              flex: 1,
              minHeight: 0,
              bgcolor: colour,
              cursor: "pointer",
              ...(row.row === chosen && { outline: "1px solid #000", boxShadow: "0 0 0 2px #fff" }),
              zIndex: row.row === chosen ? 1 : 0,
            }}
          />
        );
      })}
    </Box>
  );
}

interface SaidProps {
  row: FollowedRow;
  report: Followed;
  first: number;
  second: number;
}

/** What the chosen colour of the bar is after both steps, and the way to all conditions. */
export function BarColour({ row, report, first, second }: SaidProps) {
  const steps = [...new Set([first, second])];
  const lab = row.lab[first];
  return (
    <Box role="group" aria-label="Chosen colour of the bar" sx={{ mt: 1 }}>
      <Typography variant="body2" sx={{ fontWeight: 650 }}>
        {report.steps[0]?.columns.join("")}: {row.name}
      </Typography>
      {steps.map((step) => {
        const found = row.lab[step];
        return (
          <Box key={step} sx={{ display: "flex", gap: 1, alignItems: "center", mt: 0.25 }}>
            <Box
              aria-hidden
              sx={{ width: 18, height: 18, bgcolor: found ? labColour(found) : "transparent" }}
            />
            <Typography variant="body2">
              {step + 1}: {found ? labText(found) : "no colour"}
            </Typography>
          </Box>
        );
      })}
      {row.difference !== null && (
        <Typography variant="body2" data-testid="bar-difference">
          {number(row.difference, 2)} apart
        </Typography>
      )}
      {lab && (
        <Button
          component={Link}
          to={`/spots?colour=${lab.map((v) => v.toFixed(1)).join(",")}&white=relative`}
          sx={{ mt: 0.5 }}
        >
          On every condition…
        </Button>
      )}
    </Box>
  );
}
