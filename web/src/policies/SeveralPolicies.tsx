import { Box, Button, Checkbox, FormControlLabel, Typography } from "@mui/material";
import { useMutation, useQueries } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type OutputPolicy, type PdfDocument, type PolicyReport } from "../api";
import { runQuery } from "../queries/policies";
import { bytes, Explained, type Figure, Notice } from "../ui";

interface Choice {
  key: string;
  name: string;
  policy: OutputPolicy;
}

interface Props {
  document: PdfDocument;
  choices: Choice[];
}

interface Started {
  key: string;
  name: string;
  run: number;
}

const MOST = 8;
const de = (value: number | undefined) => value?.toFixed(1) ?? "–";

const COLUMNS: [string, Figure | undefined, (r: PolicyReport) => string][] = [
  ["Comes to", undefined, (r) => r.destination],
  [
    "Size, about",
    "size_forecast",
    (r) => (r.size_forecast === null ? "–" : bytes(r.size_forecast)),
  ],
  ["ΔE00, mean", "object_de00", (r) => de(r.colour?.mean)],
  ["95 %", "object_de00", (r) => de(r.colour?.p95)],
  ["greatest", "object_de00", (r) => de(r.colour?.greatest)],
  ["Most ink", "object_tac", (r) => (r.tac.after === null ? "–" : `${r.tac.after.toFixed(0)} %`)],
  ["Stops at", "objects", (r) => (r.stops ? String(r.stops) : "–")],
  [
    "To look at",
    "preflight",
    (r) =>
      String(
        r.findings.filter((f) => f.severity === "warn" || f.severity === "stop").length || "–",
      ),
  ],
];

/** Several policies tried dry on one document, side by side in size, colour, ink and findings. */
export function SeveralPolicies({ document, choices }: Props) {
  const [ticked, setTicked] = useState<string[]>(choices.slice(0, 1).map((c) => c.key));
  const [started, setStarted] = useState<Started[]>([]);
  const start = useMutation({
    mutationFn: (chosen: Choice[]) =>
      Promise.all(
        chosen.map(async ({ key, name, policy }) => {
          const body = { policy, document: document.id, dry: true };
          return { key, name, run: (await ask(api.POST("/api/policy-runs", { body }))).id };
        }),
      ),
    onSuccess: setStarted,
  });
  const runs = useQueries({ queries: started.map((s) => runQuery(s.run)) });
  const busy =
    start.isPending ||
    runs.some((r) => ["waiting", "running"].includes(r.data?.state ?? "waiting"));
  return (
    <Box role="region" aria-label="Several policies" sx={{ mt: 2 }}>
      <Typography variant="h2">Several policies on {document.file_name}</Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 2.5, alignItems: "center" }}>
        {choices.map((c) => (
          <FormControlLabel
            key={c.key}
            label={c.name}
            disabled={!ticked.includes(c.key) && ticked.length >= MOST}
            control={
              <Checkbox
                size="small"
                checked={ticked.includes(c.key)}
                onChange={(_, on) =>
                  setTicked(on ? [...ticked, c.key] : ticked.filter((key) => key !== c.key))
                }
              />
            }
          />
        ))}
        <Button
          disabled={busy || ticked.length < 2}
          onClick={() => start.mutate(choices.filter((c) => ticked.includes(c.key)))}
        >
          {busy && started.length > 0 ? "Trying…" : "Try side by side"}
        </Button>
      </Box>
      {start.error && <Notice problem={start.error} onDismiss={() => start.reset()} />}
      {started.length > 0 && (
        <Box
          component="table"
          aria-label="Policies side by side"
          sx={{
            mt: 1,
            borderCollapse: "collapse",
            fontSize: 12.5,
            "& td, & th": {
              borderTop: 1,
              borderColor: "divider",
              px: 1,
              py: 0.5,
              textAlign: "left",
            },
          }}
        >
          <thead>
            <tr>
              <th>Policy</th>
              {COLUMNS.map(([label, of]) => (
                <th key={label}>{of ? <Explained of={of}>{label}</Explained> : label}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {started.map((s, i) => {
              const run = runs[i]?.data;
              const report = run?.report;
              return (
                <tr key={s.key}>
                  <td style={{ fontWeight: 650 }}>{s.name}</td>
                  {report ? (
                    COLUMNS.map(([label, , told]) => <td key={label}>{told(report)}</td>)
                  ) : (
                    <td colSpan={COLUMNS.length}>
                      {run?.state === "failed"
                        ? run.error
                        : `${((run?.progress ?? 0) * 100).toFixed(0)} %`}
                    </td>
                  )}
                </tr>
              );
            })}
          </tbody>
        </Box>
      )}
    </Box>
  );
}
