import { Box } from "@mui/material";
import { useRef } from "react";

import type { HueLeaf } from "../api";
import { PlotFiles } from "./PlotFiles";
import { Rulers } from "./Rulers";

const W = 290;
const H = 200;
const PAD = { left: 30, right: 10, top: 8, bottom: 40 };
const py = (lightness: number) => H - PAD.bottom - (lightness / 100) * (H - PAD.top - PAD.bottom);

interface Props {
  leaf: HueLeaf;
  label: string;
}

/** Lightness against chroma in one hue: the artwork's space dashed, what prints drawn out, and from each
 * colour of the artwork a line to the dot it prints as. */
export function LeafPlot({ leaf, label }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { source, press, before, after } = leaf;
  const most = Math.max(60, ...[...source, ...press, ...before, ...after].map(([c]) => c ?? 0));
  const end = Math.ceil(most / 10) * 10;
  const px = (chroma: number) => PAD.left + (chroma / end) * (W - PAD.left - PAD.right);
  const line = (points: readonly (readonly number[])[]) =>
    points.map(([c, l]) => `${px(c ?? 0).toFixed(1)},${py(l ?? 0).toFixed(1)}`).join(" ");
  const step = end > 120 ? 40 : 20;
  const marks = Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step);
  return (
    <Box sx={{ position: "relative" }}>
      <Box
        ref={svg}
        component="svg"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={label}
        sx={{ width: "100%", maxWidth: 520, display: "block", color: "text.primary" }}
      >
        <Rulers
          at={[0, 25, 50, 75, 100]}
          y={py}
          from={PAD.left}
          to={W - PAD.right}
          label={(v) => (v === 100 ? "L*" : String(v))}
        />
        {marks.map((c) => (
          <text
            key={c}
            x={px(c)}
            y={H - PAD.bottom + 14}
            fontSize="11"
            textAnchor="middle"
            fill="currentColor"
          >
            {c === marks.at(-1) ? `C* ${c}` : c}
          </text>
        ))}
        <polyline
          points={line(source)}
          fill="none"
          stroke="currentColor"
          strokeDasharray="4 3"
          opacity={0.75}
        />
        <polyline points={line(press)} fill="none" stroke="currentColor" strokeWidth={1.8} />
        {before.map(([c = 0, l = 0], i) => {
          const [toC = 0, toL = 0] = after[i] ?? [c, l];
          return (
            <g key={i}>
              <line
                x1={px(c)}
                y1={py(l)}
                x2={px(toC)}
                y2={py(toL)}
                stroke="currentColor"
                opacity={0.55}
              />
              <circle cx={px(toC)} cy={py(toL)} r={2.6} fill="currentColor" />
            </g>
          );
        })}
      </Box>
      <PlotFiles
        name={label}
        svg={svg}
        rows={() => [
          ["C*", "L*", "print C*", "print L*"],
          ...before.map((from, i) => [...from, ...(after[i] ?? [])]),
        ]}
      />
    </Box>
  );
}
