import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";

import type { FollowedRow } from "../api";
import { labColour } from "../plots/labColour";
import { PlotFiles } from "../plots/PlotFiles";
import { followedQuery, type Following, MOST_ROWS, type Rows } from "../queries/paths";
import { Choice, Notice } from "../ui";
import { number } from "../ui/numbers";

interface Props {
  following: Following;
  rows: Rows;
  first: number;
  second: number;
  chosen: number | null;
  onChoose: (row: FollowedRow) => void;
}

const SIZE = 520;
const PAD = 30;
const PLANES = { ab: "a* and b*, seen from above", cl: "C* and L*, all hues in one" } as const;
type Plane = keyof typeof PLANES;

/** Where a colour lies in a plane. */
export const placed = (lab: readonly number[], plane: Plane): [number, number] => {
  const [l = 0, a = 0, b = 0] = lab;
  return plane === "ab" ? [a, b] : [Math.hypot(a, b), l];
};

/** How far the axes reach: round tens that hold every colour. */
export function reach(points: readonly (readonly [number, number])[], plane: Plane): number {
  const far = Math.max(
    20,
    ...points.map(([x, y]) => (plane === "ab" ? Math.max(Math.abs(x), Math.abs(y)) : x)),
  );
  return Math.ceil(far / 10) * 10;
}

/** Every colour as a line from where it was to a dot where it came to; those that moved most, where there
 * are many. */
export function Arrows({ following, rows, first, second, chosen, onChoose }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [plane, setPlane] = useState<Plane>("ab");
  const moved: Rows = { ...rows, sort: "difference", descending: true };
  const found = useQuery(followedQuery(following, moved, 0, MOST_ROWS));
  if (found.error) return <Notice problem={found.error} />;
  const shown = (found.data?.rows ?? []).flatMap((row) => {
    const [from, to] = [row.lab[first], row.lab[second]];
    return from && to ? [{ row, from, to }] : [];
  });
  const far = reach(
    shown.flatMap(({ from, to }) => [placed(from, plane), placed(to, plane)]),
    plane,
  );
  const wide = SIZE - 2 * PAD;
  const px = (x: number) =>
    plane === "ab" ? PAD + ((x + far) / (2 * far)) * wide : PAD + (x / far) * wide;
  const py = (y: number) =>
    plane === "ab" ? SIZE - PAD - ((y + far) / (2 * far)) * wide : SIZE - PAD - (y / 100) * wide;
  const rings = Array.from({ length: Math.floor(far / 20) }, (_, i) => (i + 1) * 20);
  return (
    <Box sx={{ display: "flex", gap: 2, minHeight: 0, overflow: "auto" }}>
      <Box sx={{ position: "relative", pb: 2, flex: "none" }}>
        <Box
          ref={svg}
          component="svg"
          viewBox={`0 0 ${SIZE} ${SIZE}`}
          role="img"
          aria-label={`From step ${first + 1} to step ${second + 1}, ${shown.length} colours`}
          sx={{
            width: SIZE,
            height: SIZE,
            display: "block",
            color: "text.primary",
            bgcolor: "#808080",
          }}
        >
          {plane === "ab" ? (
            <>
              {rings.map((r) => (
                <circle
                  key={r}
                  cx={px(0)}
                  cy={py(0)}
                  r={px(r) - px(0)}
                  fill="none"
                  stroke="#000"
                  opacity="0.22"
                />
              ))}
              <line x1={PAD} x2={SIZE - PAD} y1={py(0)} y2={py(0)} stroke="#000" opacity="0.5" />
              <line x1={px(0)} x2={px(0)} y1={PAD} y2={SIZE - PAD} stroke="#000" opacity="0.5" />
            </>
          ) : (
            <>
              <line x1={px(0)} x2={px(0)} y1={PAD} y2={SIZE - PAD} stroke="#000" opacity="0.5" />
              <line x1={PAD} x2={SIZE - PAD} y1={py(0)} y2={py(0)} stroke="#000" opacity="0.5" />
              {[25, 50, 75, 100].map((l) => (
                <line
                  key={l}
                  x1={PAD}
                  x2={SIZE - PAD}
                  y1={py(l)}
                  y2={py(l)}
                  stroke="#000"
                  opacity="0.22"
                />
              ))}
            </>
          )}
          {shown.map(({ row, from, to }) => {
            const [[x0, y0], [x1, y1]] = [placed(from, plane), placed(to, plane)];
            const mine = row.row === chosen;
            return (
              <g
                key={row.row}
                onClick={() => onChoose(row)}
                style={{ cursor: "pointer" }}
                aria-label={row.name}
              >
                <title>{`${row.name}: ${number(row.difference ?? 0, 2)}`}</title>
                <line
                  x1={px(x0)}
                  y1={py(y0)}
                  x2={px(x1)}
                  y2={py(y1)}
                  stroke={mine ? "#ffffff" : "#000000"}
                  strokeWidth={mine ? 3 : 1.2}
                />
                <circle cx={px(x0)} cy={py(y0)} r="2.2" fill={labColour(from)} stroke="#000" />
                <circle
                  cx={px(x1)}
                  cy={py(y1)}
                  r={mine ? 7 : 4.5}
                  fill={labColour(to)}
                  stroke={mine ? "#fff" : "#000"}
                  strokeWidth={mine ? 2 : 1}
                />
              </g>
            );
          })}
          <text x={SIZE - PAD} y={SIZE - 10} fontSize="12" textAnchor="end" fill="#000">
            {plane === "ab" ? `a* to ${far}, rings of C* 20` : `C* to ${far}`}
          </text>
          <text x={8} y={PAD - 10} fontSize="12" fill="#000">
            {plane === "ab" ? "b*" : "L* 100"}
          </text>
        </Box>
        <PlotFiles
          name="Colours from step to step"
          svg={svg}
          rows={() => [
            ["name", "L from", "a from", "b from", "L to", "a to", "b to"],
            ...shown.map(({ row, from, to }) => [row.name, ...from, ...to]),
          ]}
        />
      </Box>
      <Box sx={{ width: 230, flex: "none" }}>
        <Choice label="Plane" value={plane} options={PLANES} onChange={setPlane} />
        <Typography variant="body2" sx={{ mt: 1 }}>
          A small dot is where a colour was, the large one where it came to.
          {found.data && found.data.found > shown.length
            ? ` The ${shown.length} that moved most, of ${found.data.found}.`
            : ""}
        </Typography>
      </Box>
    </Box>
  );
}
