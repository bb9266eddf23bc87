import { Box, Link, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";

import type { ConversionReport, PrintedReport, QueueEntry } from "../api";
import { recordQuery } from "../queries/queue";
import { DeliveryReport } from "./DeliveryReport";
import { PrintReport } from "./PrintReport";
import { stateFact } from "./words";

/** What is on record of a piece of work: its report, and the recipe or policy it ran by. */
export function RecordPanel({ entry }: { entry: QueueEntry }) {
  const report = useQuery({
    ...recordQuery(entry.kind, entry.id),
    enabled: (entry.kind === "print" || entry.kind === "delivery") && entry.has_report,
  });
  const base = `/api/queue/${entry.kind}/${entry.id}`;
  return (
    <Box
      role="region"
      aria-label="On record"
      sx={{ borderLeft: 1, borderColor: "divider", p: 2, overflow: "auto" }}
    >
      <Typography sx={{ fontWeight: 700, overflowWrap: "anywhere" }}>{entry.title}</Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {entry.detail}; {stateFact(entry)}
      </Typography>
      <Typography variant="body2" sx={{ mb: 1.5 }}>
        {entry.has_report ? (
          <Link href={`${base}/report.json`} download color="inherit">
            Report
          </Link>
        ) : (
          "No report yet"
        )}
        {" · "}
        <Link href={`${base}/settings.json`} download color="inherit">
          {entry.kind === "delivery" ? "Recipe" : "Policy"} it ran by
        </Link>
      </Typography>
      {report.data && entry.kind === "print" && (
        <PrintReport id={entry.id} report={report.data as PrintedReport} />
      )}
      {report.data && entry.kind === "delivery" && (
        <DeliveryReport report={report.data as ConversionReport} />
      )}
    </Box>
  );
}
