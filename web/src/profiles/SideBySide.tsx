import { Box } from "@mui/material";
import { useQueries } from "@tanstack/react-query";
import type { ReactNode } from "react";

import type { Examination, Profile } from "../api";
import { Swatch } from "../plots/Swatch";
import { examinationQuery } from "../queries/profiles";
import { Explained, type Figure } from "../ui";
import { cells } from "../ui/cells";
import { labText, number } from "../ui/numbers";

type Row = [label: string, of: Figure, show: (found: Examination) => ReactNode];

const relative = (found: Examination) =>
  found.reach.find((r) => r.intent === "relative") ?? found.reach[0];
const ROWS: Row[] = [
  [
    "Paper",
    "solids",
    (f) => {
      const lab = f.solids.paper;
      return lab ? (
        <>
          <Swatch lab={lab} />
          {labText(lab)}
        </>
      ) : (
        "–"
      );
    },
  ],
  [
    "Highest total",
    "tac_reached",
    (f) => (f.reach.length ? `${number(Math.max(...f.reach.map((r) => r.tac)))} %` : "–"),
  ],
  [
    "Black from",
    "black_start",
    (f) => {
      const at = relative(f)?.black_start;
      return at == null ? "–" : `L* ${number(at)}`;
    },
  ],
  [
    "Most black",
    "black_most",
    (f) => {
      const most = relative(f)?.black_most;
      return most == null ? "–" : `${number(most)} %`;
    },
  ],
  [
    "Darkest grey",
    "darkest_neutral",
    (f) => {
      const lab = relative(f)?.darkest;
      return lab ? (
        <>
          <Swatch lab={lab} />
          {labText(lab)}
        </>
      ) : (
        "–"
      );
    },
  ],
  ["Gamut volume", "gamut_volume", (f) => (f.gamut ? f.gamut.volume.toLocaleString("en") : "–")],
  [
    "Greys, C* mean and most",
    "grey_cast",
    (f) => {
      const g = f.greys.relative ?? Object.values(f.greys)[0];
      return g ? `${number(g.chroma_mean, 2)}, ${number(g.chroma_max, 2)}` : "–";
    },
  ],
  [
    "TVI at 50 %",
    "tvi",
    (f) => f.tones.map((t) => `${t.name} ${number(t.increase_50)}`).join("  ") || "–",
  ],
  [
    "Round trip, mean and 95 %",
    "round_trip",
    (f) => (f.round_trip ? `${number(f.round_trip.mean, 2)}, ${number(f.round_trip.p95, 2)}` : "–"),
  ],
  [
    "Smoothness of the print",
    "smoothness",
    (f) => (f.smoothness ? number(f.smoothness.print_p99, 2) : "–"),
  ],
  ["Findings", "findings", (f) => f.findings.filter((s) => s.severity !== "note").length],
];

/** The deciding figures of two to four profiles in one table. */
export function SideBySide({ profiles }: { profiles: Profile[] }) {
  const found = useQueries({ queries: profiles.map((p) => examinationQuery(p.id, null, "")) });
  return (
    <Box component="table" sx={{ ...cells, mb: 2 }} aria-label="Side by side">
      <thead>
        <tr>
          <th />
          {profiles.map((p) => (
            <th key={p.id}>{p.description}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {ROWS.map(([label, of, show]) => (
          <tr key={label}>
            <td>
              <Explained of={of}>{label}</Explained>
            </td>
            {profiles.map((p, i) => {
              const f = found[i]?.data;
              return (
                <td key={p.id} data-explained={of}>
                  {f ? show(f) : "…"}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
