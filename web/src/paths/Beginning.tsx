import { Box, Button, Typography } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type SwatchList } from "../api";
import { conditionsQuery } from "../queries/conditions";
import { jobsQuery } from "../queries/jobs";
import { keys } from "../queries/keys";
import { swatchListsQuery } from "../queries/paths";
import { Notice, Pick, profileSpace, RemoveButton } from "../ui";
import { ListEditor } from "./ListEditor";
import { NewListDialog } from "./NewListDialog";
import { firstStep, newStep } from "./steps";
import type { PathState } from "./usePath";

interface Props {
  state: PathState;
  onChange: (change: Partial<PathState>) => void;
}

const FORMS = { csv: "CSV", cgats: "CGATS text", cxf: "CxF3" } as const;

/** What goes along the path: a list of swatches or a picture; lists are made, changed and taken out here. */
export function Beginning({ state, onChange }: Props) {
  const client = useQueryClient();
  const lists = useQuery(swatchListsQuery);
  const jobs = useQuery(jobsQuery);
  const conditions = useQuery(conditionsQuery);
  const [making, setMaking] = useState(false);
  const [editing, setEditing] = useState(false);
  const list = lists.data?.find((one) => one.id === state.list);
  const refresh = () => client.invalidateQueries({ queryKey: keys.swatches });
  /** The steps with a first one that takes colours of a space; a fitting one stays. */
  const begin = (space: string, own: PathState["steps"][number] | null) => {
    const fitting = conditions.data?.find((c) => c.profile.colour_space === space);
    const first = own ?? firstStep(space, fitting?.id ?? null);
    return [first, ...state.steps.slice(1)];
  };
  const openList = (one: SwatchList) =>
    onChange({
      list: one.id,
      job: null,
      steps:
        list?.space === one.space && state.steps.length > 0 ? state.steps : begin(one.space, null),
    });
  return (
    <Box role="group" aria-label="What goes along the path" sx={{ mb: 1.5 }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Colours
      </Typography>
      <Pick
        field
        label="List or picture"
        value={
          state.list !== null ? `list:${state.list}` : state.job !== null ? `job:${state.job}` : ""
        }
        options={[["", "Choose a list or a picture…"]]}
        groups={[
          [
            "Lists of swatches",
            (lists.data ?? []).map((one): [string, string] => [
              `list:${one.id}`,
              `${one.name} (${one.count} × ${one.space})`,
            ]),
          ],
          [
            "Pictures of jobs",
            (jobs.data ?? []).map((job): [string, string] => [`job:${job.id}`, job.name]),
          ],
        ]}
        onChange={(code) => {
          const [kind, id] = code.split(":");
          const one = lists.data?.find((l) => String(l.id) === id);
          const job = jobs.data?.find((j) => String(j.id) === id);
          if (kind === "list" && one) openList(one);
          else if (kind === "job" && job) {
            const { profile_sha256: own, profile_problem: wrong } = job.artwork.facts;
            const source = wrong ? null : own;
            onChange({
              job: job.id,
              list: null,
              steps: begin(profileSpace(job.artwork), source ? newStep("profile", source) : null),
            });
          }
        }}
        sx={{ fontWeight: 650 }}
      />
      {list && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.25 }}>
          {list.made}
        </Typography>
      )}
      <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", mt: 0.75, alignItems: "center" }}>
        <Button onClick={() => setMaking(true)}>New list…</Button>
        {list && <Button onClick={() => setEditing(true)}>Change…</Button>}
        {list && (
          <RemoveButton
            quiet
            label="Remove"
            name={list.name}
            remove={() =>
              ask(api.DELETE("/api/swatch-lists/{id}", { params: { path: { id: list.id } } }))
            }
            restore={() =>
              ask(api.POST("/api/swatch-lists/{id}/restore", { params: { path: { id: list.id } } }))
            }
            onDone={refresh}
          />
        )}
      </Box>
      {list && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          As a file:{" "}
          {Object.entries(FORMS).map(([form, name], i) => (
            <span key={form}>
              {i > 0 ? ", " : ""}
              <a
                style={{ color: "inherit" }}
                href={`/api/swatch-lists/${list.id}/file?form=${form}`}
                download
              >
                {name}
              </a>
            </span>
          ))}
        </Typography>
      )}
      {lists.error && <Notice problem={lists.error} onRetry={() => void lists.refetch()} />}
      {making && (
        <NewListDialog
          onClose={() => setMaking(false)}
          onMade={(one) => {
            setMaking(false);
            openList(one);
          }}
        />
      )}
      {editing && list && (
        <ListEditor list={list} onClose={() => setEditing(false)} onCopied={openList} />
      )}
    </Box>
  );
}
