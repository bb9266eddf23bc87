import { Box } from "@mui/material";
import { useRef, useState } from "react";

import { shortInk, useInks } from "./inks";
import { PlotFiles } from "./PlotFiles";

interface Props {
  /** Percent of the pixels in equal steps of tone value, by ink. */
  bins: Record<string, number[]>;
}

const W = 300;
const H = 148;
const PAD = { left: 8, right: 30, top: 6, bottom: 22 };

/** How often each tone value is printed: one row an ink, higher where there is more. */
export function Histogram({ bins }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const look = useInks();
  const [at, setAt] = useState<number | null>(null);
  const names = Object.keys(bins);
  const count = bins[names[0] ?? ""]?.length ?? 1;
  const row = (H - PAD.top - PAD.bottom) / Math.max(1, names.length);
  const wide = (W - PAD.left - PAD.right) / count;
  const highest = Math.max(0.5, ...names.flatMap((n) => bins[n] ?? []));
  const read = (x: number) =>
    setAt(Math.min(count - 1, Math.max(0, Math.floor((x - PAD.left) / wide))));
  return (
    <Box sx={{ position: "relative", flex: "none" }}>
      <Box
        ref={svg}
        component="svg"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label="Tone values of every plate"
        sx={{ width: W, height: H, display: "block", color: "text.primary" }}
        onPointerMove={(e) =>
          read(
            ((e.clientX - e.currentTarget.getBoundingClientRect().left) /
              e.currentTarget.clientWidth) *
              W,
          )
        }
        onPointerLeave={() => setAt(null)}
      >
        {names.map((name, i) => {
          const base = PAD.top + (i + 1) * row;
          const values = bins[name] ?? [];
          return (
            <g key={name}>
              <line
                x1={PAD.left}
                x2={W - PAD.right}
                y1={base}
                y2={base}
                stroke="currentColor"
                opacity={0.25}
              />
              {values.map((v, k) => {
                const high = Math.sqrt(v / highest) * (row - 7);
                return high < 0.2 ? null : (
                  <rect
                    key={k}
                    x={PAD.left + k * wide}
                    y={base - high}
                    width={Math.max(0.8, wide - 0.6)}
                    height={high}
                    fill={look.colour(name)}
                    style={name === "K" ? { fill: "currentColor" } : undefined}
                  />
                );
              })}
              <text
                x={W - PAD.right + 6}
                y={base - 3}
                fontSize="11"
                fontWeight="700"
                fill="currentColor"
              >
                {shortInk(name, names)}
              </text>
            </g>
          );
        })}
        {[0, 50, 100].map((v) => (
          <text
            key={v}
            x={PAD.left + (v / 100) * (W - PAD.left - PAD.right)}
            y={H - 8}
            fontSize="11"
            textAnchor={v === 0 ? "start" : v === 100 ? "end" : "middle"}
            fill="currentColor"
          >
            {v === 100 ? "100 %" : v}
          </text>
        ))}
        {at === null && (
          <text x={PAD.left} y={PAD.top + 6} fontSize="11" fill="currentColor">
            How often each tone value prints
          </text>
        )}
        {at !== null && (
          <g>
            <rect
              x={PAD.left + at * wide}
              y={PAD.top}
              width={wide}
              height={H - PAD.top - PAD.bottom}
              fill="currentColor"
              opacity={0.12}
            />
            <text
              x={at > count / 2 ? PAD.left : W - PAD.right}
              y={PAD.top + 6}
              fontSize="11"
              textAnchor={at > count / 2 ? "start" : "end"}
              fill="currentColor"
            >
              {`${((at * 100) / count).toFixed(0)}–${(((at + 1) * 100) / count).toFixed(0)} %: ${names.map((n) => `${n} ${(bins[n]?.[at] ?? 0).toFixed(1)}`).join("  ")}`}
            </text>
          </g>
        )}
      </Box>
      <PlotFiles
        name="Tone values of every plate"
        svg={svg}
        rows={() => [
          ["from %", ...names],
          ...Array.from({ length: count }, (_, k) => [
            (k * 100) / count,
            ...names.map((n) => bins[n]?.[k] ?? 0),
          ]),
        ]}
      />
    </Box>
  );
}
