import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import {
  api,
  ask,
  DEFAULTS,
  type MediumChange,
  onRevision,
  type Printer,
  ProblemError,
} from "../api";
import { type Patch, patchBetween } from "../api/patches";
import { conditionsQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { printersQuery } from "../queries/printers";
import { Shell } from "../shell";
import {
  ClashNotice,
  Explained,
  Notice,
  RemoveButton,
  SideList,
  useInstead,
  whenEmpty,
} from "../ui";
import { MediumCard } from "./MediumCard";
import { MediumEditor } from "./MediumEditor";
import { changeOf, NEW_SETTINGS } from "./words";

interface Editing {
  id: number | null;
  start: MediumChange;
  revision: number | null;
}

const count = (p: Printer) =>
  `${p.media.length === 1 ? "1 medium" : `${p.media.length} media`}${p.waiting ? `, ${p.waiting} in its queue` : ""}${p.paused ? ", paused" : ""}`;

/** Printers with their media: which way files go, who manages colour, what the operator sets. */
export function PrintersPage() {
  const client = useQueryClient();
  const printers = useQuery(printersQuery);
  const conditions = useQuery(conditionsQuery);
  const [opened, setOpened] = useState<number | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const [name, setName] = useState<string | null>(null);
  const refresh = () => client.invalidateQueries({ queryKey: keys.printers });
  const shown = printers.data?.find((p) => p.id === opened) ?? printers.data?.[0];
  const add = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/printers", { body: { name: "New printer", place: "", paused: false } })),
    onSuccess: async (made) => {
      await refresh();
      setOpened(made.id);
    },
  });
  const change = useMutation({
    mutationFn: ({
      printer: p,
      patch,
      anyway,
    }: {
      printer: Printer;
      patch: Patch;
      anyway?: boolean;
    }) =>
      ask(
        api.PATCH("/api/printers/{id}", {
          params: { path: { id: p.id } },
          body: patch as never,
          ...onRevision(anyway ? null : p.revision),
        }),
      ),
    onSettled: refresh,
  });
  const keep = useMutation({
    mutationFn: ({
      editing: e,
      draft,
      printer,
      anyway,
    }: {
      editing: Editing;
      draft: MediumChange;
      printer: number;
      anyway?: boolean;
    }) =>
      e.id === null
        ? ask(
            api.POST("/api/printers/{id}/media", {
              params: { path: { id: printer } },
              body: draft,
            }),
          )
        : ask(
            api.PATCH("/api/media/{id}", {
              params: { path: { id: e.id } },
              body: patchBetween(e.start, draft as unknown as Patch) as never,
              ...onRevision(anyway ? null : e.revision),
            }),
          ),
    onSuccess: async () => {
      setEditing(null);
      await refresh();
    },
  });
  const clash =
    change.error instanceof ProblemError && change.error.problem.fields.length > 0
      ? change.error
      : null;
  const error = printers.error ?? add.error ?? (clash ? null : change.error);
  const fresh = (): MediumChange => ({
    name: "",
    condition: conditions.data?.find((c) => c.process !== "display")?.id ?? 0,
    policy: null,
    duty: { ...DEFAULTS.ColourDuty, driver: "absent" },
    settings: NEW_SETTINGS,
  });
  const [leaving, instead] = useInstead();
  const open = (id: number) =>
    instead(() => {
      setOpened(id);
      setEditing(null);
      setName(null);
    });
  return (
    <Shell
      detail="Colour is managed once on every way."
      actions={
        <Button variant="contained" onClick={() => add.mutate()}>
          New printer
        </Button>
      }
    >
      {error && (
        <Notice
          problem={error}
          onDismiss={() => {
            add.reset();
            change.reset();
          }}
        />
      )}
      {clash && (
        <ClashNotice
          problem={clash}
          onTheirs={() => change.reset()}
          onMine={() => {
            if (change.variables) change.mutate({ ...change.variables, anyway: true });
          }}
        />
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: "220px minmax(0, 1fr)", height: "100%" }}>
        <Box sx={{ borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          <SideList
            label="Printers"
            shown={shown?.id}
            onOpen={open}
            empty={whenEmpty(printers, "No printer yet. Add one, then the media it prints on.")}
            rows={(printers.data ?? []).map((p) => ({
              id: p.id,
              name: p.name,
              fact: (
                <>
                  {p.place && (
                    <>
                      {p.place}
                      <br />
                    </>
                  )}
                  <Explained of="media" focus={false}>
                    {count(p)}
                  </Explained>
                </>
              ),
            }))}
          />
        </Box>
        {shown ? (
          <Box sx={{ overflow: "auto", p: 2.5 }}>
            <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 2 }}>
              <TextField
                value={name ?? shown.name}
                onChange={(e) => setName(e.target.value)}
                onBlur={() => {
                  if (name?.trim() && name !== shown.name)
                    change.mutate({ printer: shown, patch: { name } });
                  setName(null);
                }}
                slotProps={{ htmlInput: { maxLength: 100, "aria-label": "Name of the printer" } }}
                sx={{ width: 260, "& input": { fontWeight: 700 } }}
              />
              <Typography color="text.secondary" sx={{ flex: 1 }}>
                {shown.place}
              </Typography>
              <Button
                aria-pressed={shown.paused}
                onClick={() => change.mutate({ printer: shown, patch: { paused: !shown.paused } })}
              >
                {shown.paused ? "Let it go on" : "Pause"}
              </Button>
              <Button
                onClick={() =>
                  instead(() => {
                    keep.reset();
                    setEditing({ id: null, start: fresh(), revision: null });
                  })
                }
              >
                Add a medium
              </Button>
              <RemoveButton
                label="Remove the printer"
                name={shown.name}
                uses={() =>
                  ask(api.GET("/api/printers/{id}/uses", { params: { path: { id: shown.id } } }))
                }
                remove={() =>
                  ask(api.DELETE("/api/printers/{id}", { params: { path: { id: shown.id } } }))
                }
                restore={() =>
                  ask(
                    api.POST("/api/printers/{id}/restore", { params: { path: { id: shown.id } } }),
                  )
                }
                onDone={async () => {
                  setOpened(null);
                  await refresh();
                }}
                kept="They leave the list with it. What it printed stays on record."
              />
            </Box>
            {editing && (
              <MediumEditor
                key={editing.id ?? "new"}
                start={editing.start}
                error={keep.error}
                onKeep={(draft) => keep.mutateAsync({ editing, draft, printer: shown.id })}
                onAnyway={(draft) =>
                  keep.mutate({ editing, draft, printer: shown.id, anyway: true })
                }
                onClose={() => setEditing(null)}
                leaving={leaving}
              />
            )}
            {shown.media
              .filter((m) => m.id !== editing?.id)
              .map((m) => (
                <MediumCard
                  key={m.id}
                  medium={m}
                  onEdit={() =>
                    instead(() => {
                      keep.reset();
                      setEditing({ id: m.id, start: changeOf(m), revision: m.revision });
                    })
                  }
                  onRefresh={refresh}
                />
              ))}
            {shown.media.length === 0 && !editing && (
              <Typography color="text.secondary">
                No medium yet. A medium says which condition is printed, by which policy, and who
                manages colour.
              </Typography>
            )}
          </Box>
        ) : (
          <Box />
        )}
      </Box>
    </Shell>
  );
}
