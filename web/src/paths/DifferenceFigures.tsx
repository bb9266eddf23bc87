import { Box, Typography } from "@mui/material";
import { useRef } from "react";

import type { DifferenceFigures as Figures, Followed } from "../api";
import { distanceColour } from "../plots/distance";
import { PlotFiles } from "../plots/PlotFiles";
import type { Rows } from "../queries/paths";
import { Explained, LimitField } from "../ui";
import { number } from "../ui/numbers";
import { SHORT } from "./words";

interface Props {
  figures: Figures;
  /** Total ink of the two steps, where both are inks. */
  ink?: Followed["ink"];
  formula: Rows["formula"];
  onThresholds: (thresholds: number[]) => void;
}

const W = 420;
const H = 120;
const PAD = { left: 6, right: 10, top: 8, bottom: 20 };

/** Two steps' difference: figures, the share below each threshold, and how often each size occurs. */
export function DifferenceFigures({ figures, ink, formula, onThresholds }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { histogram, thresholds, shares } = figures;
  const [low, high] = [histogram.edges[0] ?? 0, histogram.edges.at(-1) ?? 1];
  const x = (v: number) => PAD.left + ((v - low) / (high - low)) * (W - PAD.left - PAD.right);
  const most = Math.max(1, ...histogram.counts);
  const base = H - PAD.bottom;
  const said: [string, number, string][] = [
    ["mean", figures.mean, "Mean size of the differences."],
    ["median", figures.median, "Half of the colours differ by less."],
    ["95 %", figures.p95, "95 of 100 colours differ by less."],
    ["greatest", figures.greatest, "The greatest of all; signed where the formula is."],
    ["least", figures.least, "The least of all; signed where the formula is."],
    ["deviation", figures.deviation, "Standard deviation."],
    ["best 90 %", figures.best90, "Mean of the nine tenths that differ least."],
  ];
  return (
    <Box sx={{ display: "flex", gap: 3, flexWrap: "wrap", alignItems: "flex-start" }}>
      <Box
        component="table"
        aria-label="Figures of the difference"
        sx={{
          borderCollapse: "collapse",
          fontSize: 13,
          "& td, & th": { textAlign: "left", py: 0.1 },
        }}
      >
        <tbody>
          {said.map(([name, value, help]) => (
            <tr key={name}>
              <th scope="row" style={{ fontWeight: 450, paddingRight: 14 }}>
                <Explained text={help}>{name}</Explained>
              </th>
              <td
                data-explained=""
                style={{
                  textAlign: "right",
                  fontVariantNumeric: "tabular-nums",
                  fontWeight: name === "mean" ? 700 : 450,
                }}
              >
                {number(value, 2)}
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Box sx={{ position: "relative", pb: 2, flex: "1 1 240px", maxWidth: W }}>
        <Box
          ref={svg}
          component="svg"
          viewBox={`0 0 ${W} ${H}`}
          role="img"
          aria-label="How often each difference occurs"
          sx={{ width: "100%", display: "block", color: "text.primary" }}
        >
          {histogram.counts.map((count, i) => {
            const [a, b] = [histogram.edges[i] ?? 0, histogram.edges[i + 1] ?? 0];
            const high = count === 0 ? 0 : Math.max(1, Math.sqrt(count / most) * (base - PAD.top));
            return (
              <rect
                key={i}
                x={x(a)}
                y={base - high}
                width={Math.max(0.8, x(b) - x(a) - 0.7)}
                height={high}
                fill={distanceColour((a + b) / 2)}
                stroke="currentColor"
                strokeWidth={count === 0 ? 0 : 0.5}
              >
                <title>{`${number(a, 2)} to ${number(b, 2)}: ${count}`}</title>
              </rect>
            );
          })}
          <line x1={PAD.left} x2={W - PAD.right} y1={base} y2={base} stroke="currentColor" />
          {thresholds
            .filter((t) => t < high)
            .map((t) => (
              <line
                key={t}
                x1={x(t)}
                x2={x(t)}
                y1={PAD.top - 4}
                y2={base + 4}
                stroke="currentColor"
                strokeWidth="1.5"
                strokeDasharray="4 3"
              />
            ))}
          <text x={PAD.left} y={H - 5} fontSize="11" fill="currentColor">
            {number(low, 1)}
          </text>
          <text x={W - PAD.right} y={H - 5} fontSize="11" textAnchor="end" fill="currentColor">
            {`${number(high, 1)} ${SHORT[formula]}`}
          </text>
        </Box>
        <PlotFiles
          name="Differences of two steps"
          svg={svg}
          rows={() => [
            ["from", "to", "colours"],
            ...histogram.counts.map((count, i) => [
              histogram.edges[i] ?? 0,
              histogram.edges[i + 1] ?? 0,
              count,
            ]),
          ]}
        />
      </Box>
      <Box role="group" aria-label="Thresholds">
        <Typography sx={{ fontWeight: 650, mb: 0.25 }}>
          <Explained text="Shares of the colours whose difference is at most this large; they are drawn as lines over the bars.">
            Thresholds
          </Explained>
        </Typography>
        {thresholds.map((t, i) => (
          <Box key={i} sx={{ display: "flex", gap: 0.75, alignItems: "center", minHeight: 28 }}>
            <Typography component="span">to</Typography>
            <LimitField
              label={`Threshold ${i + 1}`}
              value={t}
              unit=""
              min={i === 0 ? 0.01 : (thresholds[i - 1] ?? 0) + 0.01}
              max={(thresholds[i + 1] ?? 1000) - 0.01}
              step={0.1}
              width={56}
              onRest={(value) =>
                value !== null && onThresholds(thresholds.map((old, k) => (k === i ? value : old)))
              }
            />
            <Typography component="span" data-explained="" sx={{ fontWeight: 650, ml: -3 }}>
              {number((shares[i] ?? 0) * 100, 1)} %
            </Typography>
          </Box>
        ))}
        {ink && (
          <Typography sx={{ mt: 0.5 }} data-testid="ink-of-steps">
            <Explained text="Mean and greatest total ink of the two steps over all colours.">
              Ink
            </Explained>{" "}
            {number(ink.first_mean, 0)} to {number(ink.second_mean, 0)} % in the mean, most{" "}
            {number(ink.first_most, 0)} to {number(ink.second_most, 0)} %:{" "}
            <b>
              {number(Math.abs(ink.saved) * 100, 1)} % {ink.saved >= 0 ? "saved" : "more"}
            </b>
          </Typography>
        )}
      </Box>
    </Box>
  );
}
