import { Box, Button, InputBase, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type KeptPath, onRevision } from "../api";
import { ProblemError } from "../api";
import { keys } from "../queries/keys";
import { keptPathsQuery } from "../queries/paths";
import { ClashNotice, Form, Notice, Pick, RemoveButton, useDraft, whenEmpty } from "../ui";
import { stepCode } from "./steps";
import type { PathState } from "./usePath";

interface Props {
  state: PathState;
  onChange: (change: Partial<PathState>) => void;
}

const same = (a: KeptPath["steps"], b: KeptPath["steps"]) =>
  a.map(stepCode).join() === b.map(stepCode).join();

/** Paths under names: opened, kept anew, kept over, renamed, removed. */
export function KeptPaths({ state, onChange }: Props) {
  const client = useQueryClient();
  const kept = useQuery({ ...keptPathsQuery, refetchInterval: 4000 });
  const [naming, setNaming] = useState(false);
  const refresh = () => client.invalidateQueries({ queryKey: keys.paths, exact: true });
  const open = kept.data?.find((p) => p.id === state.kept);
  const create = useMutation({
    mutationFn: (called: string) =>
      ask(api.POST("/api/colour-paths", { body: { name: called, steps: state.steps } as never })),
    onSuccess: async (made) => {
      setNaming(false);
      await refresh();
      onChange({ kept: made.id });
    },
  });
  const change = useMutation({
    mutationFn: ({ patch, revision }: { patch: object; revision: number | null }) =>
      ask(
        api.PATCH("/api/colour-paths/{id}", {
          params: { path: { id: open?.id ?? 0 } },
          body: patch as never,
          ...onRevision(revision),
        }),
      ),
    onSuccess: () => setNaming(false),
    onSettled: refresh,
  });
  const form = useDraft({ name: "" }, ({ name: called }) => {
    if (!called.trim()) return;
    if (open) change.mutate({ patch: { name: called }, revision: open.revision ?? null });
    else create.mutate(called);
  });
  const { name } = form.draft;
  const clash =
    change.error instanceof ProblemError && change.error.problem.fields.length > 0
      ? change.error
      : null;
  const problem = kept.error ?? create.error ?? (clash ? null : change.error);
  const changed = open !== undefined && !same(open.steps, state.steps);
  return (
    <Box role="group" aria-label="Kept paths" sx={{ mb: 1.5 }}>
      <Box sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
        <Pick
          label="Kept path"
          width={158}
          value={open ? String(open.id) : ""}
          options={{
            "": kept.data?.length ? "Open a kept path…" : whenEmpty(kept, "No path is kept yet"),
            ...Object.fromEntries((kept.data ?? []).map((p) => [String(p.id), p.name])),
          }}
          onChange={(id) => {
            const chosen = kept.data?.find((p) => String(p.id) === id);
            if (!chosen) onChange({ kept: null });
            else
              onChange({
                kept: chosen.id,
                steps: chosen.steps,
                first: 0,
                second: chosen.steps.length - 1,
              });
          }}
        />
        {open && changed && (
          <Button
            onClick={() =>
              change.mutate({ patch: { steps: state.steps }, revision: open.revision ?? null })
            }
          >
            Keep
          </Button>
        )}
        {!naming && (
          <Button
            onClick={() => {
              form.reset({ name: open ? open.name : "" });
              setNaming(true);
            }}
          >
            {open ? "Rename…" : "Keep…"}
          </Button>
        )}
        {open && !naming && (
          <RemoveButton
            quiet
            label="Remove"
            name={open.name}
            remove={() =>
              ask(api.DELETE("/api/colour-paths/{id}", { params: { path: { id: open.id } } }))
            }
            restore={() =>
              ask(api.POST("/api/colour-paths/{id}/restore", { params: { path: { id: open.id } } }))
            }
            onDone={refresh}
          />
        )}
      </Box>
      {naming && (
        <Form
          of={form}
          label="How the path is called"
          row
          onEscape={() => setNaming(false)}
          sx={{ mt: 0.75 }}
        >
          <InputBase
            autoFocus
            value={name}
            placeholder="Name of the path"
            inputProps={{ "aria-label": "Name of the path", maxLength: 100 }}
            onChange={(e) => form.put({ name: e.target.value })}
            sx={{
              flex: 1,
              border: 1,
              borderColor: "text.secondary",
              px: 1,
              fontSize: 13,
              bgcolor: "background.paper",
            }}
          />
          <Button type="submit" variant="contained" disabled={!name.trim()}>
            {open ? "Rename" : "Keep"}
          </Button>
          {open && (
            <Button disabled={!name.trim()} onClick={() => create.mutate(name)}>
              As new
            </Button>
          )}
          <Button onClick={() => setNaming(false)}>×</Button>
        </Form>
      )}
      {open && changed && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          Changed since it was kept.
        </Typography>
      )}
      {clash && change.variables && (
        <ClashNotice
          problem={clash}
          onTheirs={() => change.reset()}
          onMine={() => change.mutate({ patch: change.variables?.patch ?? {}, revision: null })}
        />
      )}
      {problem && <Notice problem={problem} onDismiss={() => (create.reset(), change.reset())} />}
    </Box>
  );
}
