import { Box, Typography } from "@mui/material";
import { useState } from "react";

import type { PrintedReport } from "../api";
import { Pick } from "../ui";
import { type Fact, FactList } from "../ui/controls";

const KEPT = 4;

/** What the simulated press printed: the sheet, its plates, what it took. */
export function PrintReport({ id, report }: { id: number; report: PrintedReport }) {
  const [page, setPage] = useState("1");
  const [plate, setPlate] = useState("");
  const sheet = report.sheets.find((s) => String(s.page) === page) ?? report.sheets[0];
  if (!sheet) return null;
  const inks = Object.keys(sheet.coverage);
  const name = plate
    ? `plates/${page}-${Number(plate) + 1}-${(inks[Number(plate)] ?? "").replace(/[^\p{L}\p{N}]/gu, "_")}.png`
    : `sheet-${page}.png`;
  const close = report.press_against_profile;
  const millilitres = Object.entries(report.millilitres)
    .map(([n, v]) => `${n} ${v.toFixed(v < 10 ? 2 : 0)}`)
    .join("  ");
  const money = (v: number) => `${v.toFixed(v < 0.1 ? 4 : 2)} ${report.currency}`;
  const facts: Fact[] = [
    ["Sheets, copies", `${report.sheets.length} × ${report.copies}`, "copies_done"],
    ["Size", `${sheet.size_mm.map((v) => v.toFixed(0)).join(" × ")} mm`, "print_size"],
    ["Ink for the run, ml", millilitres || "not known", "run_millilitres"],
    ["Ink", report.ink_cost === null ? "not known" : money(report.ink_cost), "cost"],
    [
      "Medium",
      `${money(report.medium_cost)}${report.roll_metres === null ? `, ${report.area_m2.toFixed(2)} m²` : `, ${report.roll_metres.toFixed(2)} m of roll`}`,
      "roll",
    ],
    ...(inks.length > 0
      ? [
          [
            "Highest total ink",
            `${report.tac_highest.toFixed(0)} %${report.tac_rule ? ` of ${report.tac_rule.toFixed(0)} %` : ""}`,
            "tac_max",
          ] as Fact,
        ]
      : []),
    ...(close
      ? [
          [
            "Press against profile",
            `ΔE00 ${close.mean.toFixed(2)} mean, ${close.p95.toFixed(2)} at 95 %`,
            "press_distance",
          ] as Fact,
        ]
      : []),
  ];
  return (
    <Box>
      <Box sx={{ display: "flex", gap: 1.5, mb: 0.75 }}>
        <Pick
          label="Sheet"
          width={90}
          value={page}
          options={Object.fromEntries(
            report.sheets.slice(0, KEPT).map((s) => [String(s.page), `sheet ${s.page}`]),
          )}
          onChange={setPage}
        />
        <Pick
          label="What of it"
          width={150}
          value={plate}
          options={{
            "": "as printed",
            ...Object.fromEntries(inks.map((n, i) => [String(i), `${n} plate`])),
          }}
          onChange={setPlate}
        />
      </Box>
      <Box sx={{ bgcolor: "#777777", p: 2, display: "flex", justifyContent: "center" }}>
        <img
          src={`/api/prints/${id}/${name}`}
          alt={plate ? `${inks[Number(plate)]} plate` : "The printed sheet"}
          style={{ maxWidth: "100%", maxHeight: 330, display: "block" }}
        />
      </Box>
      <Box sx={{ mt: 1 }}>
        <FactList facts={facts} />
      </Box>
      {sheet.notes.map(({ text }) => (
        <Typography key={text} variant="body2" sx={{ mt: 0.5, fontWeight: 650 }}>
          {text}
        </Typography>
      ))}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
        Printed by the simulated press that ships with Plinto.
      </Typography>
    </Box>
  );
}
