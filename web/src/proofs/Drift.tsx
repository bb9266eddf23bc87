import { Box, Typography } from "@mui/material";
import { useRef } from "react";

import type { ProofBrief, ProofReadingBrief } from "../api";
import { spread } from "../plots/InkRampPlot";
import { PlotFiles } from "../plots/PlotFiles";
import { Rulers } from "../plots/Rulers";
import { number } from "../ui";

const W = 460;
const H = 164;
const PAD = { left: 40, right: 92, top: 24, bottom: 24 };
const LINES = [
  ["most", "greatest", "2 3"],
  ["paper", "paper", "7 3"],
  ["mean", "mean", ""],
] as const;

interface Props {
  proofs: ProofBrief[];
  shown: number | null;
  onOpen: (proof: number, reading: number) => void;
}

interface Point extends ProofReadingBrief {
  proof: number;
}

/** Every reading of a press on a proofer in the order of time: how the proofs drift. */
export function Drift({ proofs, shown, onOpen }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const points: Point[] = proofs
    .flatMap((p) => p.readings.map((r) => ({ ...r, proof: p.id })))
    .sort((a, b) => a.created.localeCompare(b.created));
  if (points.length < 2)
    return (
      <Typography variant="body2" color="text.secondary">
        The drift is drawn from the second reading on.
      </Typography>
    );
  const top = Math.max(2, ...points.map((p) => p.figures.most ?? 0)) * 1.08;
  const x = (i: number) => PAD.left + (i / (points.length - 1)) * (W - PAD.left - PAD.right);
  const y = (v: number) => H - PAD.bottom - (v / top) * (H - PAD.top - PAD.bottom);
  const last = points.at(-1);
  const step = top > 12 ? 5 : top > 5 ? 2 : 1;
  const ticks = Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => i * step);
  const apart = spread(LINES.map(([key]) => y(last?.figures[key] ?? 0)));
  // What was pushed out below comes up again, all together.
  const below = Math.max(0, Math.max(...apart) + 6 - H);
  const labels = apart.map((v) => v - below);
  const day = (p: Point | undefined) => p?.created.slice(0, 10) ?? "";
  return (
    <Box sx={{ position: "relative", width: W }}>
      <Box
        ref={svg}
        component="svg"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={`Drift over ${points.length} readings`}
        sx={{ width: W, height: H, display: "block", color: "text.primary" }}
      >
        <Rulers at={ticks} y={y} from={PAD.left} to={W - PAD.right} opacity={() => 0.18} />
        <text x={2} y={12} fontSize="11" fill="currentColor">
          ΔE00
        </text>
        {LINES.map(([key, name, dashes], i) => (
          <g key={key}>
            <polyline
              points={points
                .map((p, i) => `${x(i).toFixed(1)},${y(p.figures[key] ?? 0).toFixed(1)}`)
                .join(" ")}
              fill="none"
              stroke="currentColor"
              strokeWidth={key === "mean" ? 2 : 1.3}
              strokeDasharray={dashes}
            />
            <text x={W - PAD.right + 8} y={(labels[i] ?? 0) + 4} fontSize="11" fill="currentColor">
              {name} {number(last?.figures[key] ?? 0)}
            </text>
          </g>
        ))}
        {points.map((p, i) => (
          <g key={p.id} style={{ cursor: "pointer" }} onClick={() => onOpen(p.proof, p.id)}>
            <title>{`${day(p)}, ${p.by}: mean ${number(p.figures.mean ?? 0)}`}</title>
            <rect
              x={x(i) - 6}
              y={PAD.top}
              width={12}
              height={H - PAD.top - PAD.bottom}
              fill="transparent"
            />
            <circle
              cx={x(i)}
              cy={y(p.figures.mean ?? 0)}
              r={p.id === shown ? 5.5 : 4}
              fill={p.passes === false ? "white" : "currentColor"}
              stroke="currentColor"
              strokeWidth={1.8}
            />
          </g>
        ))}
        <text x={PAD.left} y={H - 8} fontSize="11" fill="currentColor">
          {day(points[0])}
        </text>
        <text x={W - PAD.right} y={H - 8} fontSize="11" textAnchor="end" fill="currentColor">
          {day(last)}
        </text>
      </Box>
      <PlotFiles
        name="Drift"
        svg={svg}
        rows={() => [
          ["read", "by", "passes", "mean", "paper", "greatest"],
          ...points.map((p) => [
            p.created,
            p.by,
            String(p.passes ?? ""),
            p.figures.mean ?? "",
            p.figures.paper ?? "",
            p.figures.most ?? "",
          ]),
        ]}
      />
      <Typography variant="body2" color="text.secondary">
        An open ring is a reading that failed.
      </Typography>
    </Box>
  );
}
