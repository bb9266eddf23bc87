import { Box, Button, LinearProgress, TextField, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type RefObject, useEffect, useState } from "react";

import {
  api,
  ask,
  onRevision,
  type OutputPolicy,
  type PdfDocument,
  type Policy,
  type PolicyReport,
  ProblemError,
} from "../api";
import { patchBetween, POLICY_KEYS } from "../api/patches";
import { save } from "../plots/save";
import { keys } from "../queries/keys";
import { SendOn } from "../queue";
import { bytes, ClashNotice, Notice, RemoveButton, Sentence, Tabs, useLeaving } from "../ui";
import { ComparePanel } from "./ComparePanel";
import { ObjectsView } from "./ObjectsView";
import type { Spotted } from "./PagePreview";
import { PagesPanel } from "./PagesPanel";
import { RulesEditor } from "./RulesEditor";
import { SpotBuilds } from "./SpotBuilds";
import { StandardCheck } from "./StandardCheck";
import { useRun } from "./useRun";

interface Props {
  kept: Policy;
  document: PdfDocument | null;
  /** Filled with the way to leave the work, which asks where something was not kept. */
  leaving: RefObject<((go: () => void) => void) | null>;
  onGone: () => unknown;
}

const VIEWS = { objects: "Where objects go", pages: "Pages and plates" } as const;

/** What pressing the button comes to. */
function runLabel(report: PolicyReport | null): string {
  if (report?.stops) return `Run; it stops at ${report.stops}`;
  return report?.findings.some((f) => f.severity === "stop")
    ? "Run; a check stops it"
    : "Run for real";
}

/** One policy: its rules, a dry run on a document, and the real run. */
export function PolicyWork({ kept: newest, document, leaving, onGone }: Props) {
  const client = useQueryClient();
  // What the draft was made from: it follows the newest version while nothing was changed here.
  const [kept, setKept] = useState(newest);
  const [draft, setDraft] = useState<OutputPolicy>(newest.policy);
  const [rules, setRules] = useState(false);
  const [comparing, setComparing] = useState(false);
  const [view, setView] = useState<keyof typeof VIEWS>("objects");
  const [row, setRow] = useState<string | null>(null);
  const [object, setObject] = useState<Spotted | null>(null);
  const dry = useRun();
  const real = useRun();
  const changed = JSON.stringify(draft) !== JSON.stringify(kept.policy);
  const keep = useMutation({
    mutationFn: (anyway: boolean) =>
      ask(
        api.PATCH("/api/policies/{id}", {
          params: { path: { id: kept.id } },
          body: patchBetween(kept.policy, draft, POLICY_KEYS) as never,
          ...onRevision(anyway ? null : kept.revision),
        }),
      ),
    onSuccess: async (made) => {
      setKept(made);
      setDraft(made.policy);
      await client.invalidateQueries({ queryKey: keys.policies });
    },
  });
  useEffect(() => {
    if (changed || newest.revision <= kept.revision) return;
    setKept(newest);
    setDraft(newest.policy);
  }, [newest, changed, kept.revision]);
  const { ask: askToLeave, dialog } = useLeaving({
    what: changed ? `The changes of “${draft.name}” are not kept as a version yet.` : "",
    keep: [`Keep as version ${newest.version + 1}`, () => keep.mutateAsync(false)],
  });
  useEffect(() => {
    leaving.current = askToLeave;
    return () => {
      leaving.current = null;
    };
  });
  const clash =
    keep.error instanceof ProblemError && keep.error.problem.fields.length > 0 ? keep.error : null;
  const path = { params: { path: { id: kept.id } } };
  const { mutate } = dry.start;
  const id = document?.id;
  const stamp = JSON.stringify(draft);
  useEffect(() => {
    // The dry run follows the draft and the document, a moment after the last change.
    if (id === undefined) return;
    const timer = setTimeout(() => {
      setObject(null);
      mutate({ policy: JSON.parse(stamp) as OutputPolicy, document: id, dry: true });
    }, 350);
    return () => clearTimeout(timer);
  }, [stamp, id, mutate]);
  const report = dry.run?.report ?? null;
  const busy = dry.start.isPending || dry.run?.state === "waiting" || dry.run?.state === "running";
  const running = real.run && (real.run.state === "waiting" || real.run.state === "running");
  const error = (clash ? null : keep.error) ?? dry.start.error ?? real.start.error;
  return (
    <Box sx={{ overflow: "auto", p: 2.5 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.25, flexWrap: "wrap", mb: 1.5 }}>
        <TextField
          value={draft.name}
          onChange={(e) => setDraft({ ...draft, name: e.target.value })}
          slotProps={{ htmlInput: { maxLength: 100, "aria-label": "Name of the policy" } }}
          sx={{ width: 290, "& input": { fontWeight: 700 } }}
        />
        <Typography
          variant="body2"
          color="text.secondary"
          data-explained="versions"
          sx={{ flex: 1, minWidth: 160 }}
        >
          version {kept.version}
          {changed ? ", changed" : ""}
          {report ? `; to ${report.destination}` : ""}
          {document
            ? `; dry run on ${document.file_name}, ${document.pages === 1 ? "1 page" : `${document.pages} pages`}`
            : ""}
        </Typography>
        <Button aria-pressed={rules} onClick={() => setRules(!rules)}>
          {rules ? "Hide the rules" : "Rules and settings"}
        </Button>
        <Button aria-pressed={comparing} onClick={() => setComparing(!comparing)}>
          Compare
        </Button>
        <Button disabled={!changed || keep.isPending} onClick={() => keep.mutate(false)}>
          Keep as version {newest.version + 1}
        </Button>
        <Button
          variant="contained"
          disabled={!document || Boolean(running) || !report}
          onClick={() =>
            document && real.start.mutate({ policy: draft, document: document.id, dry: false })
          }
        >
          {runLabel(report)}
        </Button>
      </Box>
      {dialog}
      {clash && (
        <ClashNotice
          problem={clash}
          onTheirs={() => {
            keep.reset();
            setKept(newest);
            setDraft(newest.policy);
          }}
          onMine={() => keep.mutate(true)}
        />
      )}
      {changed && newest.revision > kept.revision && !clash && (
        <Sentence>
          Version {newest.version} was kept elsewhere meanwhile. What you changed is laid over it
          when you keep it.
        </Sentence>
      )}
      {error && (
        <Notice
          problem={error}
          onDismiss={() => {
            keep.reset();
            dry.start.reset();
            real.start.reset();
          }}
        />
      )}
      {real.run && (
        <Box
          role="status"
          aria-label="Real run"
          data-state={real.run.state}
          sx={{
            border: 2,
            borderColor: "text.primary",
            bgcolor: "background.paper",
            p: 1.25,
            mb: 1.5,
            display: "flex",
            alignItems: "center",
            gap: 1.5,
          }}
        >
          <Box sx={{ flex: 1 }}>
            {running && (
              <LinearProgress
                variant="determinate"
                value={(real.run.progress ?? 0) * 100}
                aria-label="Run"
              />
            )}
            {real.run.state === "done" && real.run.report && (
              <Typography data-explained="file_size">
                <b>{real.run.file_name}</b>, {bytes(real.run.report.size_before)} became{" "}
                {bytes(real.run.report.size_after ?? 0)}
                {real.run.report.not_handled.length
                  ? `; ${real.run.report.not_handled.length} not handled`
                  : ""}
                .
              </Typography>
            )}
            {real.run.state === "failed" && (
              <Typography role="alert" sx={{ fontWeight: 700 }}>
                {real.run.error}
              </Typography>
            )}
            {real.run.state === "cancelled" && (
              <Typography>Cancelled; no file was made.</Typography>
            )}
          </Box>
          {running && (
            <Button onClick={() => real.run && real.stop.mutate(real.run.id)}>Cancel</Button>
          )}
          {real.run.state === "done" && (
            <SendOn what={{ result: real.run.id }} name={real.run.file_name} />
          )}
          {real.run.state === "done" && (
            <Button
              component="a"
              href={`/api/policy-runs/${real.run.id}/file`}
              download={real.run.file_name}
            >
              Download
            </Button>
          )}
          {real.run.state === "done" && (
            <Button
              component="a"
              href={`/api/policy-runs/${real.run.id}/report.pdf`}
              download="preflight.pdf"
            >
              Report
            </Button>
          )}
        </Box>
      )}
      {real.run?.state === "done" && real.run.report?.pdfx && (
        <StandardCheck check={real.run.report.pdfx} />
      )}
      {rules && (
        <Box sx={{ mb: 2 }}>
          <RulesEditor policy={draft} layers={report?.layers} onChange={setDraft} />
          <SpotBuilds policy={draft} onChange={setDraft} />
        </Box>
      )}
      {comparing && (
        <ComparePanel kept={kept} draft={draft} document={document} onTake={setDraft} />
      )}
      {!document && (
        <Sentence>
          Take in a PDF or a picture on the left to see where its objects will go.
        </Sentence>
      )}
      {dry.run?.state === "failed" && <Notice problem={new Error(dry.run.error)} />}
      {busy && <LinearProgress variant="indeterminate" aria-label="Dry run" sx={{ mb: 1 }} />}
      {report && document && (
        <Box sx={{ opacity: busy ? 0.6 : 1 }}>
          <Tabs label="What is shown" id="tab" value={view} options={VIEWS} onChange={setView}>
            {view === "pages" && dry.run && <PagesPanel run={dry.run.id} pages={report.pages} />}
            {view === "objects" && (
              <ObjectsView
                run={dry.run?.id ?? 0}
                report={report}
                summary={dry.run?.summary ?? []}
                policy={draft}
                row={row}
                onRow={setRow}
                object={object}
                onObject={setObject}
              />
            )}
          </Tabs>
        </Box>
      )}
      <Box sx={{ display: "flex", gap: 1, mt: 2 }}>
        <Button
          onClick={() =>
            save(
              `${draft.name.replace(/\W+/g, "-")}.json`,
              JSON.stringify(draft, null, 2) + "\n",
              "application/json",
            )
          }
        >
          Export as a file
        </Button>
        <RemoveButton
          label="Retire the policy"
          name={kept.name}
          uses={() => ask(api.GET("/api/policies/{id}/uses", path))}
          remove={() => ask(api.DELETE("/api/policies/{id}", path))}
          restore={() => ask(api.POST("/api/policies/{id}/restore", path))}
          onDone={onGone}
          kept="They go on using it; it is offered to nothing else any more."
        />
      </Box>
    </Box>
  );
}
