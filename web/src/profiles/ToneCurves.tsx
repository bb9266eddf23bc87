import { Box } from "@mui/material";
import { useRef, useState } from "react";

import type { Examination, InkTones } from "../api";
import { useInks } from "../plots";
import { PlotFiles } from "../plots/PlotFiles";
import { Rulers } from "../plots/Rulers";
import { number } from "../ui/numbers";

const W = 360;
const H = 200;
const PAD = { left: 40, right: 12, top: 10, bottom: 24 };

interface Props {
  tones: InkTones[];
  name: string;
  /** Increases that were aimed at: open points. */
  aims?: NonNullable<NonNullable<Examination["aim"]>["tones"]>;
}

/** Tone value increase of every ink against the tone value asked for. */
export function ToneCurves({ tones, name, aims = [] }: Props) {
  const look = useInks();
  const svg = useRef<SVGSVGElement>(null);
  const [at, setAt] = useState<number | null>(null);
  const increases = tones.map((t) => t.printed.map((p, i) => p - (t.asked[i] ?? 0)));
  const aimed = aims.map((a) => a.aim);
  const high = Math.max(10, ...increases.flat(), ...aimed) + 2;
  const low = Math.min(0, ...increases.flat(), ...aimed) - 2;
  const x = (tone: number) => PAD.left + (tone / 100) * (W - PAD.left - PAD.right);
  const y = (v: number) => PAD.top + ((high - v) / (high - low)) * (H - PAD.top - PAD.bottom);
  const asked = tones[0]?.asked ?? [];
  const marks = [0, 10, 20, 30].filter((v) => v <= high);
  return (
    <Box sx={{ position: "relative", width: W, pb: 2.25 }}>
      <Box
        ref={svg}
        component="svg"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={`Tone value increase, ${name}`}
        sx={{ width: W, display: "block", color: "text.primary" }}
        onPointerLeave={() => setAt(null)}
        onPointerMove={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          setAt(
            Math.min(
              asked.length - 1,
              Math.max(
                0,
                Math.round(
                  ((((e.clientX - box.left) / box.width) * W - PAD.left) /
                    (W - PAD.left - PAD.right)) *
                    (asked.length - 1),
                ),
              ),
            ),
          );
        }}
      >
        <Rulers at={marks} y={y} from={PAD.left} to={W - PAD.right} label={(v) => `${v} %`} />
        {[0, 25, 50, 75, 100].map((v) => (
          <text key={v} x={x(v)} y={H - 8} fontSize="11" textAnchor="middle" fill="currentColor">
            {v}
          </text>
        ))}
        {tones.map((t, k) => (
          <polyline
            key={t.name}
            points={(increases[k] ?? [])
              .map((v, i) => `${x(t.asked[i] ?? 0).toFixed(1)},${y(v).toFixed(1)}`)
              .join(" ")}
            fill="none"
            stroke={look.colour(t.name)}
            strokeWidth={1.9}
            strokeDasharray={look.dash(t.name)}
            style={t.name === "K" ? { stroke: "currentColor" } : undefined}
          />
        ))}
        {aims.map((a) => (
          <circle
            key={`${a.ink} ${a.at}`}
            cx={x(a.at)}
            cy={y(a.aim)}
            r={3}
            fill="none"
            stroke={look.colour(a.ink)}
            strokeWidth={1.5}
            style={a.ink === "K" ? { stroke: "currentColor" } : undefined}
          />
        ))}
        {at !== null && (
          <g>
            <line
              x1={x(asked[at] ?? 0)}
              x2={x(asked[at] ?? 0)}
              y1={PAD.top}
              y2={H - PAD.bottom}
              stroke="currentColor"
              opacity={0.5}
            />
            <text
              x={W - PAD.right}
              y={PAD.top + 8}
              fontSize="11"
              textAnchor="end"
              fill="currentColor"
            >{`${number(asked[at] ?? 0, 0)} %: ${tones.map((t, k) => `${t.name} +${number(increases[k]?.[at] ?? 0)}`).join("  ")}`}</text>
          </g>
        )}
      </Box>
      <PlotFiles
        name={`Tone value increase of ${name}`}
        svg={svg}
        rows={() => [
          ["asked", ...tones.map((t) => t.name)],
          ...asked.map((a, i) => [a, ...tones.map((t) => t.printed[i] ?? "")]),
        ]}
      />
    </Box>
  );
}
