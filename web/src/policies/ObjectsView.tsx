import { Box, Link, Typography } from "@mui/material";

import type { OutputPolicy, PolicyObject, PolicyReport } from "../api";
import { type Fact, FactList } from "../ui/controls";
import { Findings } from "./Findings";
import { FlowDiagram } from "./FlowDiagram";
import { Forecast } from "./Forecast";
import { ObjectTable } from "./ObjectTable";
import { PagePreview, type Spotted } from "./PagePreview";
import { StandardCheck } from "./StandardCheck";
import { flowKey, foundName, groupOf } from "./words";

interface Props {
  run: number;
  report: PolicyReport;
  /** Names and values of what holds for the whole document. */
  summary: string[][];
  policy: OutputPolicy;
  row: string | null;
  onRow: (row: string | null) => void;
  object: Spotted | null;
  onObject: (object: Spotted) => void;
}

/** Where a document's objects go: the counted flow, the preflight facts, every object. */
export function ObjectsView({ run, report, summary, policy, row, onRow, object, onObject }: Props) {
  const of = (o: PolicyObject) =>
    flowKey(
      foundName({ space: o.family, objects: groupOf(o, policy), spot: o.spot.join(", ") }),
      o.rule,
      o.action === "stop" ? "stopped" : o.outcome,
    );
  const objects = report.objects.filter((o) => row === null || of(o) === row);
  return (
    <>
      <Findings findings={report.findings} onShow={(spot) => onObject({ ...spot, notes: [] })} />
      {report.pdfx_before && <StandardCheck check={report.pdfx_before} before />}
      <FlowDiagram report={report} policy={policy} chosen={row} onChoose={onRow} />
      <Forecast report={report} />
      <Box component="details" sx={{ mt: 1, "& summary": { cursor: "pointer", fontWeight: 650 } }}>
        <summary>Preflight of the document</summary>
        <Box role="region" aria-label="Preflight" sx={{ maxWidth: 620, mt: 0.5 }}>
          <FactList
            facts={summary.map(([name = "", value = ""]): Fact => [name, value, "preflight"])}
          />
          <Typography variant="body2" sx={{ mt: 0.5 }}>
            Report:{" "}
            <Link href={`/api/policy-runs/${run}/report.pdf`} download color="inherit">
              PDF
            </Link>
            ,{" "}
            <Link href={`/api/policy-runs/${run}/report.json`} download color="inherit">
              JSON
            </Link>
            ,{" "}
            <Link href={`/api/policy-runs/${run}/notes.pdf`} download color="inherit">
              notes on the pages
            </Link>
          </Typography>
        </Box>
      </Box>
      {report.remarks.map(({ text }) => (
        <Typography key={text} sx={{ mb: 0.5 }}>
          {text}
        </Typography>
      ))}
      {report.not_handled.length > 0 && (
        <Box
          role="region"
          aria-label="Not handled"
          sx={{ borderLeft: 4, borderColor: "text.primary", pl: 1, my: 1 }}
        >
          <Typography sx={{ fontWeight: 700 }}>Not handled, left as it is</Typography>
          {report.not_handled.slice(0, 12).map((n, i) => (
            <Typography key={i} variant="body2">
              Page {n.page}, {n.kind}: {n.reason.text}
            </Typography>
          ))}
        </Box>
      )}
      <Box sx={{ display: "flex", gap: 2.5, mt: 1.5, alignItems: "flex-start" }}>
        <Box sx={{ flex: 1, minWidth: 0, overflowX: "auto" }}>
          <ObjectTable objects={objects} inks={report.inks} chosen={object} onChoose={onObject} />
        </Box>
        {object && <PagePreview key={`${run}-${object.page}`} run={run} object={object} />}
      </Box>
    </>
  );
}
