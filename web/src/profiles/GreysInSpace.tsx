import { Box, Slider, Typography } from "@mui/material";
import { useState } from "react";

import type { Neutrals } from "../api";
import { reachOf } from "./NeutralsPlot";

const SIZE = 220;

/** The path of greys in L*a*b*, turned by a slider: a hook at the dark end or a winding path shows at once. */
export function GreysInSpace({ name, data }: { name: string; data: Neutrals }) {
  const [turn, setTurn] = useState(35);
  const angle = (turn / 180) * Math.PI;
  const reach = reachOf(data.printed);
  const place = ([l = 0, a = 0, b = 0]: number[]): [number, number] => {
    const across = (a * Math.cos(angle) - b * Math.sin(angle)) / reach;
    const deep = (a * Math.sin(angle) + b * Math.cos(angle)) / reach;
    return [SIZE / 2 + across * (SIZE / 2 - 22), SIZE - 22 - (l / 100) * (SIZE - 56) - deep * 16];
  };
  const line = (points: number[][]) =>
    points
      .map((p) =>
        place(p)
          .map((v) => v.toFixed(1))
          .join(","),
      )
      .join(" ");
  const ring = (l: number) =>
    Array.from({ length: 49 }, (_, i) => [
      l,
      reach * Math.cos((i / 24) * Math.PI),
      reach * Math.sin((i / 24) * Math.PI),
    ]);
  const [ax, ay] = place([0, reach, 0]);
  const [bx, by] = place([0, 0, reach]);
  return (
    <Box sx={{ width: SIZE }}>
      <Box
        component="svg"
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        role="img"
        aria-label={`Greys in space, ${name}`}
        sx={{ width: SIZE, display: "block", color: "text.primary" }}
      >
        {[0, 50, 100].map((l) => (
          <polyline
            key={l}
            points={line(ring(l))}
            fill="none"
            stroke="currentColor"
            opacity={0.25}
          />
        ))}
        <polyline
          points={line([
            [0, 0, 0],
            [100, 0, 0],
          ])}
          stroke="currentColor"
          opacity={0.4}
          strokeDasharray="2 3"
        />
        <polyline
          points={line([
            [0, 0, 0],
            [0, reach, 0],
          ])}
          stroke="currentColor"
          opacity={0.4}
        />
        <polyline
          points={line([
            [0, 0, 0],
            [0, 0, reach],
          ])}
          stroke="currentColor"
          opacity={0.4}
        />
        <polyline points={line(data.printed)} fill="none" stroke="currentColor" strokeWidth={2} />
        <text x={ax} y={ay + 11} fontSize="10" textAnchor="middle" fill="currentColor">
          +a*
        </text>
        <text x={bx} y={by + 11} fontSize="10" textAnchor="middle" fill="currentColor">
          +b*
        </text>
        <text
          x={SIZE / 2}
          y={11}
          fontSize="10"
          textAnchor="middle"
          fill="currentColor"
        >{`L* 100, rings at C* ${reach}`}</text>
      </Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        <Typography variant="body2" id={`turn-${name}`}>
          Turn
        </Typography>
        <Slider
          size="small"
          aria-label={`Turn the greys of ${name}`}
          value={turn}
          min={-180}
          max={180}
          step={5}
          onChange={(_, v) => setTurn(v)}
        />
      </Box>
    </Box>
  );
}
