import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { api, ask, type Folder, type FolderChange, onRevision } from "../api";
import { type Patch, patchBetween } from "../api/patches";
import { foldersQuery } from "../queries/folders";
import { keys } from "../queries/keys";
import { uploadToFolder } from "../queries/upload";
import { Shell } from "../shell";
import { Notice, RemoveButton, SideList, useInstead, whenEmpty } from "../ui";
import { FileInput } from "../ui/FileInput";
import { FolderFiles } from "./FolderFiles";
import { FolderForm } from "./FolderForm";

interface Editing {
  id: number | null;
  start: FolderChange;
  revision: number | null;
}

const NEW: FolderChange = { name: "", policy: null, medium: null, active: true, repeats: "skip" };
const changeOf = (f: Folder): FolderChange => ({
  name: f.name,
  policy: f.policy ?? null,
  medium: f.medium ?? null,
  active: f.active ?? true,
  repeats: f.repeats,
});
const PARTS = {
  in: "Drop files into",
  out: "Results and reports",
  failed: "What failed, with its reason",
  originals: "Originals, as they came",
} as const;

/** Watched folders: where they lie, what they do, what came and what became of it. */
export function FoldersPage() {
  const client = useQueryClient();
  const folders = useQuery(foldersQuery);
  const [opened, setOpened] = useState<number | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const refresh = () => client.invalidateQueries({ queryKey: keys.folders });
  const shown = folders.data?.find((f) => f.id === opened) ?? folders.data?.[0];
  const keep = useMutation({
    mutationFn: ({
      editing: e,
      draft,
      anyway,
    }: {
      editing: Editing;
      draft: FolderChange;
      anyway?: boolean;
    }) =>
      e.id === null
        ? ask(api.POST("/api/folders", { body: draft }))
        : ask(
            api.PATCH("/api/folders/{id}", {
              params: { path: { id: e.id } },
              body: patchBetween(e.start, draft as unknown as Patch) as never,
              ...onRevision(anyway ? null : e.revision),
            }),
          ),
    onSuccess: async (made) => {
      setEditing(null);
      await refresh();
      setOpened(made.id);
    },
  });
  const send = useMutation({
    mutationFn: async ({ id, files }: { id: number; files: File[] }) => {
      for (const file of files) await uploadToFolder(id, file);
    },
    onSettled: refresh,
  });
  const error = folders.error ?? send.error;
  const [leaving, instead] = useInstead();
  const open = (id: number) =>
    instead(() => {
      setOpened(id);
      setEditing(null);
    });
  return (
    <Shell
      detail="Whatever is put into them goes through its policy."
      actions={
        <Button
          variant="contained"
          onClick={() =>
            instead(() => {
              keep.reset();
              setEditing({ id: null, start: NEW, revision: null });
            })
          }
        >
          New folder
        </Button>
      }
    >
      {error && (
        <Notice
          problem={error}
          onDismiss={() => {
            send.reset();
          }}
        />
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: "220px minmax(0, 1fr)", height: "100%" }}>
        <Box sx={{ borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          <SideList
            label="Watched folders"
            shown={shown?.id}
            onOpen={open}
            empty={whenEmpty(folders, "No folder is watched yet.")}
            rows={(folders.data ?? []).map((f) => ({
              id: f.id,
              name: f.name,
              fact: `${f.trouble ? "in trouble" : f.active ? "watched" : "not watched"}; ${f.policy_name || "no policy"}`,
            }))}
          />
        </Box>
        <Box sx={{ overflow: "auto", p: 2.5 }}>
          {editing && (
            <FolderForm
              key={editing.id ?? "new"}
              start={editing.start}
              error={keep.error}
              onKeep={(draft) => keep.mutateAsync({ editing, draft })}
              onAnyway={(draft) => keep.mutate({ editing, draft, anyway: true })}
              onClose={() => setEditing(null)}
              leaving={leaving}
            />
          )}
          {shown && editing === null && (
            <>
              <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
                <Typography variant="h1" component="h2" sx={{ flex: 1 }}>
                  {shown.name}
                </Typography>
                <Button
                  onClick={() => {
                    keep.reset();
                    setEditing({ id: shown.id, start: changeOf(shown), revision: shown.revision });
                  }}
                >
                  Edit
                </Button>
                <RemoveButton
                  label="Stop watching"
                  name={shown.name}
                  uses={() =>
                    ask(api.GET("/api/folders/{id}/uses", { params: { path: { id: shown.id } } }))
                  }
                  remove={() =>
                    ask(api.DELETE("/api/folders/{id}", { params: { path: { id: shown.id } } }))
                  }
                  restore={() =>
                    ask(
                      api.POST("/api/folders/{id}/restore", { params: { path: { id: shown.id } } }),
                    )
                  }
                  onDone={async () => {
                    setOpened(null);
                    await refresh();
                  }}
                />
              </Box>
              {shown.trouble && (
                <Typography role="alert" sx={{ mb: 1.5, fontWeight: 650 }}>
                  {shown.trouble} It is tried again at every look.
                </Typography>
              )}
              <Typography sx={{ mb: 1.5 }}>
                {shown.active ? "" : "Not watched now. "}Files go through{" "}
                <b>{shown.policy_name || "no policy"}</b>
                {shown.medium_name ? (
                  <>
                    {" "}
                    and on to <b>{shown.medium_name}</b>
                  </>
                ) : (
                  " and are written out"
                )}
                ; the same file again{" "}
                {shown.repeats === "skip" ? "is noted, not run again" : "is run again"}.
              </Typography>
              <Box
                role="group"
                aria-label="Drop files here"
                onDragOver={(e) => {
                  e.preventDefault();
                  setOver(true);
                }}
                onDragLeave={() => setOver(false)}
                onDrop={(e) => {
                  e.preventDefault();
                  setOver(false);
                  send.mutate({ id: shown.id, files: [...e.dataTransfer.files] });
                }}
                sx={{
                  border: 2,
                  borderStyle: "dashed",
                  borderColor: over ? "text.primary" : "text.secondary",
                  bgcolor: over ? "action.selected" : "background.paper",
                  p: 2,
                  mb: 2,
                  display: "grid",
                  gridTemplateColumns: "auto minmax(0, 1fr) auto",
                  columnGap: 2,
                  rowGap: 0.25,
                  alignItems: "center",
                }}
              >
                {(Object.entries(PARTS) as [keyof typeof PARTS, string][]).map(
                  ([part, name], i) => (
                    <Box key={part} sx={{ display: "contents" }}>
                      <Typography sx={{ fontWeight: i === 0 ? 700 : 450 }}>{name}</Typography>
                      <Typography
                        sx={{ fontFamily: "monospace", fontSize: 12, overflowWrap: "anywhere" }}
                      >
                        {shown.places[part]}
                      </Typography>
                      {i === 0 ? (
                        <Button onClick={() => input.current?.click()}>Put a file in…</Button>
                      ) : (
                        <Box />
                      )}
                    </Box>
                  ),
                )}
              </Box>
              <FileInput
                ref={input}
                label="File for the folder"
                multiple
                onFiles={(files) => {
                  send.mutate({ id: shown.id, files: files });
                }}
              />
              <FolderFiles files={shown.files} settling={shown.settling} />
            </>
          )}
        </Box>
      </Box>
    </Shell>
  );
}
