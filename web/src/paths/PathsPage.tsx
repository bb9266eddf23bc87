import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";

import { api, ask, type FollowedRow } from "../api";
import { keys } from "../queries/keys";
import {
  followedQuery,
  pictureAddress,
  type Rows,
  swatchListsQuery,
  tableAddress,
} from "../queries/paths";
import { Shell } from "../shell";
import { Choice, Notice, Pick, Sentence, Tabs } from "../ui";
import { Arrows } from "./Arrows";
import { Beginning } from "./Beginning";
import { ALL_ROWS, ColourRows, type Sought } from "./ColourRows";
import { DifferenceFigures } from "./DifferenceFigures";
import { KeptPaths } from "./KeptPaths";
import { Pictures } from "./Pictures";
import { SaveDialog } from "./SaveDialog";
import { Steps } from "./Steps";
import { type PathState, usePath } from "./usePath";
import { FORMULAS, VIEWS } from "./words";

const PARTS = { table: "Colours", arrows: "Arrows", picture: "Picture" } as const;
type Part = keyof typeof PARTS;

/** Colours along a path: what goes in, the steps, and what two steps make of it. */
export function PathsPage() {
  const client = useQueryClient();
  const [state, put] = usePath();
  const [part, setPart] = useState<Part>("table");
  const [sought, setSought] = useState<Sought>(ALL_ROWS);
  const [thresholds, setThresholds] = useState([1, 2, 4]);
  const [saving, setSaving] = useState(false);
  const [chosen, setChosen] = useState<FollowedRow | null>(null);
  const lists = useQuery(swatchListsQuery);
  const following = { steps: state.steps, list: state.list, job: state.job, view: state.view };
  const compared = state.first !== state.second;
  const rows: Rows = {
    first: compared ? state.first : null,
    second: compared ? state.second : null,
    formula: state.formula,
    thresholds,
    sort: !compared && sought.sort === "difference" ? "row" : sought.sort,
    descending: sought.descending,
    text: useDeferredValue(sought.text),
    beyond: compared ? (sought.beyond ?? 0) : 0,
  };
  const begun = (state.list !== null || state.job !== null) && state.steps.length > 0;
  const found = useQuery({ ...followedQuery(following, rows, 0), enabled: begun });
  const report = begun ? found.data : undefined;
  const current = found.isPlaceholderData ? undefined : report;
  const list = lists.data?.find((l) => l.id === state.list);
  const job = state.job ?? list?.job ?? null;
  const pictured = job !== null && (state.job !== null || state.steps[0]?.kind !== "lab");
  const row = chosen && report?.count && chosen.row < report.count ? chosen : null;
  // The chosen colour as the steps are now, where it is among the rows at hand.
  const fresh = report?.rows.find((r) => r.row === row?.row) ?? row;
  const change = (next: Partial<PathState>) => {
    if (next.list !== undefined || next.job !== undefined) setChosen(null);
    put(next);
  };
  const taken = useMutation({
    mutationFn: ({ step, lab }: { step: number; lab: boolean }) =>
      ask(
        api.POST("/api/swatch-lists/after-a-step", {
          body: {
            path: { steps: state.steps },
            list: state.list,
            step,
            lab,
            view: state.view,
          } as never,
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.swatches }),
  });
  const parts = Object.fromEntries(
    Object.entries(PARTS).filter(([p]) => p === "table" || (p === "arrows" ? compared : pictured)),
  ) as Record<Part, string>;
  const open = part in parts ? part : "table";
  const afterSteps: Record<string, string> = {
    "": "After a step as a list…",
    ...Object.fromEntries(
      (report?.steps ?? []).flatMap((s, i) => [
        [`${i}`, `${i + 1}: ${s.space} of ${s.name}`],
        ...(s.coloured && s.space !== "Lab" ? [[`${i}lab`, `${i + 1}: Lab of ${s.name}`]] : []),
      ]),
    ),
  };
  return (
    <Shell detail="What every step makes of colours, and how far two steps are apart.">
      <Box sx={{ display: "grid", gridTemplateColumns: "316px minmax(0, 1fr)", height: "100%" }}>
        <Box sx={{ p: 2, borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          <Beginning state={state} onChange={change} />
          {begun && (
            <>
              <KeptPaths state={state} onChange={change} />
              <Steps
                steps={state.steps}
                first={state.first}
                second={state.second}
                walked={current?.steps ?? []}
                row={fresh}
                picture={
                  pictured && current
                    ? (step) => pictureAddress(following, job, { step }, 120)
                    : null
                }
                onChange={change}
              />
              <Choice
                label="Way of looking"
                help="The same for every step: relative to each medium’s white, or with it as it is measured."
                value={state.view}
                options={VIEWS}
                onChange={(view) => change({ view })}
              />
            </>
          )}
        </Box>
        <Box
          sx={{ overflow: "auto", p: 2, display: "flex", flexDirection: "column", minHeight: 0 }}
        >
          {!begun && (
            <Sentence>
              Choose a list of swatches or a picture on the left, or make a list: typed, from a
              file, neutrals, solids, a chart, or a picture’s colours. Then add steps: profiles,
              conditions, tables, recipes.
            </Sentence>
          )}
          {begun && found.error && (
            <Notice problem={found.error} onRetry={() => void found.refetch()} />
          )}
          {begun && found.isFetching && !report && <LinearProgress aria-label="Colours" />}
          {report && !found.error && (
            <Box
              aria-busy={found.isPlaceholderData}
              sx={{
                opacity: found.isPlaceholderData ? 0.6 : 1,
                display: "flex",
                flexDirection: "column",
                flex: 1,
                minHeight: 0,
              }}
            >
              <Box
                sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 0.75 }}
              >
                <Typography data-testid="followed-count">
                  <b>{report.count.toLocaleString("en-GB").replaceAll(",", "\u2009")}</b> colours
                  {compared ? `, step ${state.first + 1} to ${state.second + 1}` : ""}
                </Typography>
                {compared && (
                  <Pick
                    label="Formula of the difference"
                    value={state.formula}
                    options={FORMULAS}
                    onChange={(formula) => change({ formula })}
                  />
                )}
                <Box sx={{ flex: 1 }} />
                {state.list !== null && (
                  <Pick<string>
                    label="Keep what stands after a step as a list"
                    value=""
                    options={afterSteps}
                    width={176}
                    onChange={(one) =>
                      one && taken.mutate({ step: parseInt(one), lab: one.endsWith("lab") })
                    }
                  />
                )}
                <Button onClick={() => setSaving(true)}>Save as one table…</Button>
                <Button component="a" href={tableAddress(following)} download>
                  All as CSV
                </Button>
              </Box>
              {saving && (
                <SaveDialog
                  following={following}
                  from={report.takes}
                  steps={report.steps}
                  onClose={() => setSaving(false)}
                />
              )}
              {taken.data && (
                <Typography role="status" sx={{ mb: 0.75 }}>
                  <b>{taken.data.name}</b> is among the lists now.
                </Typography>
              )}
              {taken.error && <Notice problem={taken.error} onDismiss={() => taken.reset()} />}
              {report.figures && open === "table" && (
                <Box sx={{ mb: 1 }}>
                  <DifferenceFigures
                    figures={report.figures}
                    ink={report.ink}
                    formula={state.formula}
                    onThresholds={setThresholds}
                  />
                </Box>
              )}
              {!compared && (
                <Sentence>
                  Add a step, and choose two steps in the columns “from” and “to”, to see their
                  difference.
                </Sentence>
              )}
              <Tabs
                label="What is shown"
                id="paths"
                fill
                value={open}
                options={parts}
                onChange={setPart}
              >
                {open === "arrows" ? (
                  <Arrows
                    following={following}
                    rows={rows}
                    first={state.first}
                    second={state.second}
                    chosen={fresh?.row ?? null}
                    onChoose={setChosen}
                  />
                ) : open === "picture" && job !== null ? (
                  <Pictures
                    following={following}
                    job={job}
                    report={report}
                    first={state.first}
                    second={state.second}
                    formula={state.formula}
                    chosen={fresh}
                    onChoose={setChosen}
                    onTaken={(list) => change({ list: list.id, job: null })}
                  />
                ) : (
                  <ColourRows
                    following={following}
                    rows={rows}
                    report={report}
                    list={list}
                    sought={sought}
                    onSought={setSought}
                    chosen={fresh}
                    onChoose={setChosen}
                  />
                )}
              </Tabs>
            </Box>
          )}
        </Box>
      </Box>
    </Shell>
  );
}
