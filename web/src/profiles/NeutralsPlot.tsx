import { Box, Typography } from "@mui/material";
import { useRef } from "react";

import type { Neutrals } from "../api";
import { useInks } from "../plots";
import { spread } from "../plots/InkRampPlot";
import { PlotFiles } from "../plots/PlotFiles";
import { Rulers } from "../plots/Rulers";
import { number } from "../ui/numbers";

const PAD = { left: 40, right: 30, top: 8, bottom: 24 };
const CAST = 78;
/** Widths and heights alone on a page, and beside others. */
const LARGE = { width: 640, height: 260, plane: 176 };
const SMALL = { width: 384, height: 210, plane: 126 };

/** The sample nearest to a lightness. */
export const indexAt = (asked: number[], lightness: number) =>
  asked.reduce(
    (best, l, i) => (Math.abs(l - lightness) < Math.abs((asked[best] ?? 0) - lightness) ? i : best),
    0,
  );

/** Half of the span of a* and b* that is drawn: 5, 10 or 20, whichever holds the path. */
export const reachOf = (printed: number[][]) => {
  const most = Math.max(...printed.map(([, a = 0, b = 0]) => Math.max(Math.abs(a), Math.abs(b))));
  return [5, 10, 20, 40].find((r) => r >= most) ?? 80;
};

interface Props {
  name: string;
  data: Neutrals;
  /** Lightness under the hairline, the same in every plot. */
  at: number;
  onAt: (lightness: number) => void;
  /** Beside others. */
  small?: boolean;
}

/** Neutral colours through a profile: inks and their total against L* asked, a* and b* that result, and the path in the a*b* plane. */
export function NeutralsPlot({ name, data, at, onAt, small = false }: Props) {
  const look = useInks();
  const { width: W, height: H, plane: PLANE } = small ? SMALL : LARGE;
  const px = (l: number) => PAD.left + ((100 - l) / 100) * (W - PAD.left - PAD.right);
  const ofPx = (x: number) => 100 - ((x - PAD.left) / (W - PAD.left - PAD.right)) * 100;
  const py = (percent: number) => H - PAD.bottom - (percent / 100) * (H - PAD.top - PAD.bottom);
  const svg = useRef<SVGSVGElement>(null);
  const names = Object.keys(data.inks);
  const inked = names.includes("K") || names.length > 3;
  const line = (values: number[], y: (v: number) => number) =>
    values.map((v, i) => `${px(data.asked[i] ?? 0).toFixed(1)},${y(v).toFixed(1)}`).join(" ");
  const labels = spread(names.map((n) => py(data.inks[n]?.at(-1) ?? 0)));
  const reach = reachOf(data.printed);
  const ay = (v: number) => CAST / 2 - (v / reach) * (CAST / 2 - 6);
  const plane = (v: number) => (v / reach) * (PLANE / 2 - 12);
  const i = indexAt(data.asked, at);
  const [l = 0, a = 0, b = 0] = data.printed[i] ?? [];
  const read = (event: { clientX: number; currentTarget: SVGSVGElement }) => {
    const box = event.currentTarget.getBoundingClientRect();
    onAt(
      Math.min(
        100,
        Math.max(0, Math.round(ofPx(((event.clientX - box.left) / box.width) * W) * 2) / 2),
      ),
    );
  };
  const hair = px(data.asked[i] ?? 0);
  return (
    <Box role="group" aria-label={`Greys of ${name}`} sx={{ minWidth: 0 }}>
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "flex-start" }}>
        <Box sx={{ position: "relative", flex: "1 1 auto", minWidth: 0, pb: 2.25 }}>
          <Box
            ref={svg}
            component="svg"
            viewBox={`0 0 ${W} ${H + CAST + 10}`}
            role="img"
            aria-label={`Inks and colour of greys, ${name}`}
            onPointerMove={read as never}
            sx={{ width: "100%", display: "block", color: "text.primary", cursor: "crosshair" }}
          >
            <Rulers
              at={[0, 25, 50, 75, 100]}
              y={py}
              from={PAD.left}
              to={W - PAD.right}
              label={(v) => (v % 50 ? "" : `${v} %`)}
              opacity={(v) => (v % 50 ? 0.1 : 0.22)}
            />
            {[100, 75, 50, 25, 0].map((v) => (
              <text
                key={v}
                x={px(v)}
                y={H - 8}
                fontSize="11"
                textAnchor="middle"
                fill="currentColor"
              >
                {v === 100 ? "L* 100" : v}
              </text>
            ))}
            {inked && (
              <polyline
                points={line(data.total, (v) => py(v / 4))}
                fill="none"
                stroke="currentColor"
                strokeWidth={1}
                strokeDasharray="1 3"
              />
            )}
            {names.map((n, k) => (
              <g key={n}>
                <polyline
                  points={line(data.inks[n] ?? [], py)}
                  fill="none"
                  stroke={look.colour(n)}
                  strokeWidth={n === "K" ? 2.2 : 1.8}
                  strokeDasharray={look.dash(n)}
                  style={n === "K" ? { stroke: "currentColor" } : undefined}
                />
                <text
                  x={W - PAD.right + 5}
                  y={(labels[k] ?? 0) + 4}
                  fontSize="11"
                  fontWeight="700"
                  fill="currentColor"
                >
                  {n}
                </text>
              </g>
            ))}
            <g transform={`translate(0 ${H + 6})`}>
              <line
                x1={PAD.left}
                x2={W - PAD.right}
                y1={CAST / 2}
                y2={CAST / 2}
                stroke="currentColor"
                opacity={0.35}
              />
              <text x={PAD.left - 6} y={11} fontSize="11" textAnchor="end" fill="currentColor">
                +{reach}
              </text>
              <text
                x={PAD.left - 6}
                y={CAST - 1}
                fontSize="11"
                textAnchor="end"
                fill="currentColor"
              >
                −{reach}
              </text>
              <polyline
                points={line(
                  data.printed.map((p) => p[1] ?? 0),
                  ay,
                )}
                fill="none"
                stroke="currentColor"
                strokeWidth={1.8}
              />
              <polyline
                points={line(
                  data.printed.map((p) => p[2] ?? 0),
                  ay,
                )}
                fill="none"
                stroke="currentColor"
                strokeWidth={1.8}
                strokeDasharray="6 3"
              />
              <text
                x={W - PAD.right + 5}
                y={
                  spread([ay(data.printed.at(-1)?.[1] ?? 0), ay(data.printed.at(-1)?.[2] ?? 0)])[0]
                }
                dy={4}
                fontSize="11"
                fontWeight="700"
                fill="currentColor"
              >
                a*
              </text>
              <text
                x={W - PAD.right + 5}
                y={
                  spread([ay(data.printed.at(-1)?.[1] ?? 0), ay(data.printed.at(-1)?.[2] ?? 0)])[1]
                }
                dy={4}
                fontSize="11"
                fontWeight="700"
                fill="currentColor"
              >
                b*
              </text>
            </g>
            <line
              x1={hair}
              x2={hair}
              y1={PAD.top}
              y2={H + CAST + 4}
              stroke="currentColor"
              opacity={0.6}
            />
          </Box>
          <PlotFiles
            name={`Greys of ${name}`}
            svg={svg}
            rows={() => [
              ["L* asked", ...names, "total", "L*", "a*", "b*"],
              ...data.asked.map((asked, k) => [
                asked,
                ...names.map((n) => data.inks[n]?.[k] ?? ""),
                data.total[k] ?? "",
                ...(data.printed[k] ?? []),
              ]),
            ]}
          />
        </Box>
        <Box
          component="svg"
          viewBox={`${-PLANE / 2} ${-PLANE / 2} ${PLANE} ${PLANE}`}
          role="img"
          aria-label={`Greys in the a*b* plane, ${name}`}
          sx={{ width: PLANE, flex: "none", color: "text.primary" }}
        >
          {[0.25, 0.5, 0.75, 1].map((r) => (
            <circle key={r} r={plane(reach * r)} fill="none" stroke="currentColor" opacity={0.2} />
          ))}
          <line
            x1={-PLANE / 2 + 12}
            x2={PLANE / 2 - 12}
            y1={0}
            y2={0}
            stroke="currentColor"
            opacity={0.3}
          />
          <line
            y1={-PLANE / 2 + 12}
            y2={PLANE / 2 - 12}
            x1={0}
            x2={0}
            stroke="currentColor"
            opacity={0.3}
          />
          <text x={PLANE / 2 - 1} y={4} fontSize="10.5" textAnchor="end" fill="currentColor">
            +a*
          </text>
          <text x={0} y={-PLANE / 2 + 10} fontSize="10.5" textAnchor="middle" fill="currentColor">
            +b*
          </text>
          <text
            x={plane(reach) * 0.72}
            y={plane(reach) * 0.72 + 9}
            fontSize="10"
            fill="currentColor"
          >
            C* {reach}
          </text>
          <polyline
            points={data.printed
              .map((p) => `${plane(p[1] ?? 0).toFixed(2)},${(-plane(p[2] ?? 0)).toFixed(2)}`)
              .join(" ")}
            fill="none"
            stroke="currentColor"
            strokeWidth={1.6}
          />
          <circle
            cx={plane(a)}
            cy={-plane(b)}
            r={4}
            fill="none"
            stroke="currentColor"
            strokeWidth={2}
          />
        </Box>
      </Box>
      <Typography data-explained="greys_at" data-testid="greys-at" sx={{ fontSize: 12.5 }}>
        <b>L* {number(data.asked[i] ?? 0)}</b> prints as L* {number(l)}, a* {number(a)}, b*{" "}
        {number(b)}, C* {number(Math.hypot(a, b))} with{" "}
        {names.map((n) => `${n} ${number(data.inks[n]?.[i] ?? 0)}`).join("  ")}
        {inked ? `, total ${number(data.total[i] ?? 0)} %` : ""}
      </Typography>
    </Box>
  );
}
