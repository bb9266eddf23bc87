import { Box, Typography } from "@mui/material";
import { useRef } from "react";

import type { AnswerPlot as Plotted } from "../api";
import { useInks } from "../plots";
import { spread } from "../plots/InkRampPlot";
import { PlotFiles } from "../plots/PlotFiles";
import { Rulers } from "../plots/Rulers";
import { number } from "../ui";

const W = 560;
const H = 300;
const PAD = { left: 48, right: 132, top: 26, bottom: 34 };
const DASHES = { line: undefined, dashed: "7 4", dotted: "2 4", points: undefined } as const;

/** Round steps of an axis, about five of them. */
export function ticks(low: number, high: number): number[] {
  const raw = (high - low) / 5 || 1;
  const unit = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((m) => m * unit).find((s) => s >= raw) ?? unit;
  const first = Math.ceil(low / step - 1e-9) * step;
  return Array.from(
    { length: Math.floor((high - first) / step + 1e-9) + 1 },
    (_, i) => first + i * step,
  );
}

/** The figure of an answer: lines and points over two axes, to be saved as SVG or CSV. */
export function AnswerPlot({ plot }: { plot: Plotted }) {
  const look = useInks();
  const svg = useRef<SVGSVGElement>(null);
  const xs = plot.series.flatMap((s) => s.x);
  const ys = [
    ...plot.series.flatMap((s) => s.y),
    0,
    ...(plot.level ? [Number(plot.level[1])] : []),
  ];
  let [lowX, highX] = [Math.min(...xs), Math.max(...xs)];
  let [lowY, highY] = [Math.min(...ys), Math.max(...ys)];
  const room = { w: W - PAD.left - PAD.right, h: H - PAD.top - PAD.bottom };
  highY += (highY - lowY) * 0.04 || 1;
  if (plot.square) {
    // One unit is as long across as down, so that hues are seen as they are.
    const scale = Math.max((highX - lowX) / room.w, (highY - lowY) / room.h);
    const [midX, midY] = [(lowX + highX) / 2, (lowY + highY) / 2];
    [lowX, highX] = [midX - (scale * room.w) / 2, midX + (scale * room.w) / 2];
    [lowY, highY] = [midY - (scale * room.h) / 2, midY + (scale * room.h) / 2];
  }
  const share = (v: number) => (v - lowX) / (highX - lowX || 1);
  const px = (v: number) => PAD.left + (plot.reversed ? 1 - share(v) : share(v)) * room.w;
  const py = (v: number) => PAD.top + (1 - (v - lowY) / (highY - lowY || 1)) * room.h;
  const named = plot.series.filter((s) => s.name);
  const ends = spread(
    named.map((s) => {
      const last = plot.reversed
        ? s.x.indexOf(Math.min(...s.x))
        : plot.square
          ? s.y.indexOf(Math.max(...s.y))
          : s.x.indexOf(Math.max(...s.x));
      return py(s.y[last] ?? 0);
    }),
    14,
  );
  const grid = (v: number) => number(v, Math.abs(v) < 10 && v % 1 !== 0 ? 1 : 0);
  return (
    <Box sx={{ position: "relative", width: W, maxWidth: "100%" }}>
      <Typography variant="h2">{plot.title}</Typography>
      <Box
        ref={svg}
        component="svg"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={plot.title}
        sx={{ width: "100%", display: "block", color: "text.primary" }}
      >
        <Rulers
          at={ticks(lowY, highY)}
          y={py}
          from={PAD.left}
          to={W - PAD.right}
          label={(v) => String(grid(v))}
          opacity={(v) => (v === 0 ? 0.5 : 0.15)}
        />
        {ticks(lowX, highX).map((v) => (
          <g key={`x${v}`}>
            <line
              x1={px(v)}
              x2={px(v)}
              y1={PAD.top}
              y2={H - PAD.bottom}
              stroke="currentColor"
              opacity={v === 0 && plot.square ? 0.5 : 0.08}
            />
            <text
              x={px(v)}
              y={H - PAD.bottom + 14}
              fontSize="11"
              textAnchor="middle"
              fill="currentColor"
            >
              {grid(v)}
            </text>
          </g>
        ))}
        <text x={4} y={14} fontSize="11" fill="currentColor">
          {plot.y}
        </text>
        <text x={W - PAD.right} y={H - 4} fontSize="11" textAnchor="end" fill="currentColor">
          {plot.x}
        </text>
        {plot.level && (
          <g>
            <line
              x1={PAD.left}
              x2={W - PAD.right}
              y1={py(Number(plot.level[1]))}
              y2={py(Number(plot.level[1]))}
              stroke="currentColor"
              strokeWidth={1.4}
              strokeDasharray="10 3 2 3"
            />
            <text
              x={PAD.left + 4}
              y={py(Number(plot.level[1])) - 4}
              fontSize="11"
              fill="currentColor"
            >
              {plot.level[0]} {number(Number(plot.level[1]), 0)}
            </text>
          </g>
        )}
        {plot.series.map((s, i) => {
          const colour = s.ink ? look.colour(s.ink) : "currentColor";
          if (s.style === "points")
            return s.x.map((x, k) => (
              <circle
                key={`${i}-${k}`}
                cx={px(x)}
                cy={py(s.y[k] ?? 0)}
                r={2.6}
                fill="currentColor"
              />
            ));
          return (
            <polyline
              key={i}
              points={s.x
                .map((x, k) => `${px(x).toFixed(1)},${py(s.y[k] ?? 0).toFixed(1)}`)
                .join(" ")}
              fill="none"
              stroke={colour}
              strokeWidth={1.8}
              strokeDasharray={s.ink ? look.dash(s.ink) : DASHES[s.style ?? "line"]}
              style={s.ink === "K" ? { stroke: "currentColor" } : undefined}
            />
          );
        })}
        {named.map((s, i) => (
          <g key={s.name}>
            {s.style === "points" ? (
              <circle cx={W - PAD.right + 18} cy={ends[i] ?? 0} r={2.6} fill="currentColor" />
            ) : (
              <line
                x1={W - PAD.right + 8}
                x2={W - PAD.right + 28}
                y1={ends[i]}
                y2={ends[i]}
                stroke={s.ink ? look.colour(s.ink) : "currentColor"}
                strokeWidth={1.8}
                strokeDasharray={s.ink ? look.dash(s.ink) : DASHES[s.style ?? "line"]}
              />
            )}
            <text x={W - PAD.right + 33} y={(ends[i] ?? 0) + 4} fontSize="11" fill="currentColor">
              {s.name}
            </text>
          </g>
        ))}
      </Box>
      <PlotFiles
        name={plot.title}
        svg={svg}
        rows={() => [
          ["series", plot.x, plot.y],
          ...plot.series.flatMap((s) => s.x.map((x, k) => [s.name, x, s.y[k] ?? ""])),
        ]}
      />
    </Box>
  );
}
