import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";

import type { GamutsReport } from "../api";
import { Explained } from "../ui";
import { DASHES } from "./outline";

const percent = (share: number) =>
  `${(share * 100).toFixed(share > 0.9995 || share < 0.0005 ? 0 : 1)} %`;

/** What the columns say. */
const HELP: Record<string, string> = {
  Volume: "Of the body of printable colours, in cubic CIELAB units, within the TAC in force.",
  Darkest: "The darkest grey that prints.",
  Lightest: "The lightest grey: the paper, or the screen’s white.",
  "Most C*": "The greatest chroma of any colour that prints.",
  Covered: "How much of the first gamut’s volume the second one prints.",
  "ΔE00 mean":
    "From the first gamut’s colours, even in volume, to the nearest that the second one prints; those it prints count as 0.",
  "95 %": "The difference that 95 of 100 of the first gamut’s colours keep below.",
};

/** A whole number with thin spaces between its thousands. */
const grouped = (value: number) => String(value).replace(/\B(?=(\d{3})+$)/g, "\u2009");

/** A body's line as the plots draw it. */
export function LineKey({ index }: { index: number }) {
  return (
    <svg width="34" height="10" aria-hidden style={{ verticalAlign: "middle" }}>
      <line
        x1="1"
        x2="33"
        y1="5"
        y2="5"
        stroke="currentColor"
        strokeWidth="2"
        strokeDasharray={DASHES[index]}
      />
    </svg>
  );
}

/** Figures of every body, and what becomes of each one's colours on every other. */
export function GamutTables({ report }: { report: GamutsReport }) {
  const { bodies, pairs, clouds } = report;
  if (bodies.length === 0) return null;
  return (
    <Box sx={{ display: "flex", gap: 4, flexWrap: "wrap", alignItems: "flex-start", mt: 1.5 }}>
      <Table
        label="Figures of the gamuts"
        head={[
          "Gamut",
          "Volume",
          "Darkest",
          "Lightest",
          "Most C*",
          "at L*, hue",
          ...clouds.map((c) => `${c.name} outside`),
        ]}
        rows={bodies.map((b, i) => [
          <>
            <LineKey index={i} /> {b.name}
            {b.tac !== null ? `, TAC ${b.tac} %` : ""}
          </>,
          ...(b.figures
            ? [
                grouped(b.figures.volume),
                `L* ${b.figures.darkest.toFixed(1)}`,
                `L* ${b.figures.lightest.toFixed(1)}`,
                b.figures.most_chroma.toFixed(1),
                `${b.figures.at_lightness.toFixed(0)}, ${b.figures.at_hue.toFixed(0)}°`,
              ]
            : ["no volume", "", "", "", ""]),
          ...clouds.map((c) => percent(c.outside[i] ?? 0)),
        ])}
      />
      {pairs.length > 0 && (
        <Table
          label="One gamut on another"
          head={["Colours of", "printed on", "Covered", "ΔE00 mean", "95 %"]}
          rows={pairs.map((p) => [
            bodies[p.body]?.name ?? "",
            bodies[p.on]?.name ?? "",
            percent(p.figures.coverage),
            p.figures.de00_mean.toFixed(2),
            p.figures.de00_p95.toFixed(1),
          ])}
        />
      )}
    </Box>
  );
}

function Table({ label, head, rows }: { label: string; head: string[]; rows: ReactNode[][] }) {
  return (
    <Box
      component="table"
      aria-label={label}
      sx={{
        borderCollapse: "collapse",
        fontSize: 13,
        "& th, & td": {
          textAlign: "right",
          px: 1,
          py: 0.4,
          borderBottom: 1,
          borderColor: "divider",
        },
        "& th:first-of-type, & td:first-of-type": { textAlign: "left", pl: 0 },
        "& th": { fontWeight: 650 },
      }}
    >
      <thead>
        <tr>
          {head.map((h) => (
            <th key={h} scope="col">
              {HELP[h] ? <Explained text={HELP[h]}>{h}</Explained> : h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={i}>
            {row.map((cell, j) => (
              <td key={j}>
                <Typography component="span" sx={{ fontSize: 13 }}>
                  {cell}
                </Typography>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
