import { Box } from "@mui/material";
import { useRef, useState } from "react";

import type { InkRamp } from "../api";
import { shortInk, useInks } from "./inks";
import { PlotFiles } from "./PlotFiles";
import { Rulers } from "./Rulers";

const W = 380;
const H = 148;
const PAD = { left: 44, right: 26, top: 8, bottom: 26 };

const px = (darkness: number) => PAD.left + (darkness / 100) * (W - PAD.left - PAD.right);
const py = (percent: number) => H - PAD.bottom - (percent / 100) * (H - PAD.top - PAD.bottom);

/** Push label positions apart to at least `gap`, in their order, downwards and, where they would leave
 * `lowest`, up again. */
export function spread(positions: number[], gap = 12, lowest = Infinity): number[] {
  const order = positions
    .map((_, i) => i)
    .sort((a, b) => (positions[a] ?? 0) - (positions[b] ?? 0));
  const out = [...positions];
  order.forEach((i, k) => {
    const above = order[k - 1];
    if (above !== undefined) out[i] = Math.max(out[i] ?? 0, (out[above] ?? 0) + gap);
  });
  let most = lowest;
  for (const i of [...order].reverse()) {
    out[i] = Math.min(out[i] ?? 0, most);
    most = (out[i] ?? 0) - gap;
  }
  return out;
}

interface Props {
  axis: InkRamp;
  label: string;
}

/** Inks along a ramp: paper on the left, the darkest colour on the right; to be saved as SVG or CSV. */
export function InkRampPlot({ axis, label }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const look = useInks();
  const [at, setAt] = useState<number | null>(null);
  const darkness = axis.lightness.map((l) => 100 - l);
  const names = Object.keys(axis.inks);
  const read = (x: number) => {
    const wanted = ((x - PAD.left) / (W - PAD.left - PAD.right)) * 100;
    let best = 0;
    darkness.forEach((d, i) => {
      if (Math.abs(d - wanted) < Math.abs((darkness[best] ?? 0) - wanted)) best = i;
    });
    setAt(best);
  };
  const line = (values: number[]) =>
    values.map((v, i) => `${px(darkness[i] ?? 0).toFixed(1)},${py(v).toFixed(1)}`).join(" ");
  const labels = spread(
    names.map((n) => py(axis.inks[n]?.[0] ?? 0)),
    12,
    H - PAD.bottom + 6,
  );
  const hover = at === null ? null : (darkness[at] ?? null);
  return (
    <Box sx={{ position: "relative", flex: "none" }}>
      <Box
        ref={svg}
        component="svg"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={label}
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
        <Rulers
          at={[0, 50, 100]}
          y={py}
          from={PAD.left}
          to={W - PAD.right}
          label={(v) => (v === 100 ? "100 %" : String(v))}
        />
        {[100, 75, 50, 25, 0].map((l) => (
          <text
            key={l}
            x={px(100 - l)}
            y={H - 12}
            fontSize="11"
            textAnchor="middle"
            fill="currentColor"
          >
            {l === 100 ? "L* 100" : l}
          </text>
        ))}
        {names.map((name, i) => {
          const values = axis.inks[name] ?? [];
          return (
            <g key={name}>
              <polyline
                points={line(values)}
                fill="none"
                stroke={look.colour(name)}
                strokeWidth={name === "K" ? 2.2 : 1.8}
                strokeDasharray={look.dash(name)}
                style={name === "K" ? { stroke: "currentColor" } : undefined}
              />
              <text
                x={W - PAD.right + 5}
                y={(labels[i] ?? 0) + 4}
                fontSize="11"
                fontWeight="700"
                fill="currentColor"
              >
                {shortInk(name, names)}
              </text>
            </g>
          );
        })}
        {hover !== null && at !== null && (
          <g>
            <line
              x1={px(hover)}
              x2={px(hover)}
              y1={PAD.top}
              y2={H - PAD.bottom}
              stroke="currentColor"
              opacity={0.5}
            />
            <text
              x={px(hover) > W / 2 ? px(hover) - 5 : px(hover) + 5}
              y={PAD.top + 9}
              fontSize="11"
              textAnchor={px(hover) > W / 2 ? "end" : "start"}
              fill="currentColor"
            >
              {`L* ${(axis.lightness[at] ?? 0).toFixed(0)}: ${names.map((n) => `${shortInk(n, names)} ${(axis.inks[n]?.[at] ?? 0).toFixed(0)}`).join("  ")}`}
            </text>
          </g>
        )}
      </Box>
      <PlotFiles
        name={label}
        svg={svg}
        rows={() => [
          ["L*", ...names, "print L*"],
          ...axis.lightness.map((l, i) => [
            l,
            ...names.map((n) => axis.inks[n]?.[i] ?? ""),
            axis.print_lightness[i] ?? "",
          ]),
        ]}
      />
    </Box>
  );
}
