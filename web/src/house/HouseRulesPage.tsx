import { Box, Button, ButtonBase, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { api, ask, type HouseRules, onRevision, ProblemError } from "../api";
import { type Patch, patchBetween } from "../api/patches";
import { save } from "../plots/save";
import { houseRulesQuery } from "../queries/jobs";
import { keys } from "../queries/keys";
import { Shell } from "../shell";
import { ClashNotice, Notice, RemoveButton, Sentence } from "../ui";
import { FileInput, readJson } from "../ui/FileInput";
import { FIRST_RULES, sentenceOf } from "./rules";
import { RulesForm } from "./RulesForm";

/** Named sets of house rules: made, put in force, exchanged as files. */
export function HouseRulesPage() {
  const client = useQueryClient();
  const sets = useQuery({ ...houseRulesQuery, refetchInterval: 2000 });
  const [opened, setOpened] = useState<number | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const refresh = () => client.invalidateQueries({ queryKey: keys.houseRules });
  const create = useMutation({
    mutationFn: (rules: HouseRules) => ask(api.POST("/api/house-rules", { body: rules })),
    onSuccess: async (made) => {
      await refresh();
      setOpened(made.id);
    },
  });
  const change = useMutation({
    mutationFn: ({ id, patch, revision }: { id: number; patch: Patch; revision: number | null }) =>
      ask(
        api.PATCH("/api/house-rules/{id}", {
          params: { path: { id } },
          body: patch as never,
          ...onRevision(revision),
        }),
      ),
    onSettled: refresh,
  });
  const use = useMutation({
    mutationFn: (id: number) =>
      ask(api.POST("/api/house-rules/{id}/use", { params: { path: { id } } })),
    onSuccess: refresh,
  });
  const read = async (file: File) => {
    try {
      create.mutate(await readJson<HouseRules>(file, "house rules"));
    } catch (caught) {
      setUnreadable(caught instanceof Error ? caught.message : String(caught));
    }
  };
  const [unreadable, setUnreadable] = useState<string | null>(null);
  const shown =
    sets.data?.find((s) => s.id === opened) ?? sets.data?.find((s) => s.active) ?? sets.data?.[0];
  const error =
    sets.error ??
    create.error ??
    change.error ??
    use.error ??
    (unreadable ? new Error(unreadable) : null);
  const clash =
    change.error instanceof ProblemError && change.error.problem.fields.length > 0
      ? change.error
      : null;
  const sent = change.variables;
  const dismiss = () => {
    create.reset();
    change.reset();
    use.reset();
    setUnreadable(null);
  };
  const free = () => {
    const names = new Set(sets.data?.map((s) => s.name));
    let name = "House rules";
    for (let i = 2; names.has(name); i += 1) name = `House rules ${i}`;
    return name;
  };
  return (
    <Shell
      detail="They hold for artwork that comes in from now on."
      actions={
        <>
          <FileInput
            ref={input}
            label="House rules file"
            accept=".json"
            onFiles={([file]) => {
              if (file) void read(file);
            }}
          />
          <Button onClick={() => input.current?.click()}>Import a file…</Button>
          <Button
            variant="contained"
            onClick={() => create.mutate({ ...FIRST_RULES, name: free() })}
          >
            New set
          </Button>
        </>
      }
    >
      {clash && sent && (
        <ClashNotice
          problem={clash}
          onTheirs={dismiss}
          onMine={() => change.mutate({ ...sent, revision: null })}
        />
      )}
      {error && !clash && <Notice problem={error} onDismiss={dismiss} />}
      <Box sx={{ display: "grid", gridTemplateColumns: "300px minmax(0, 1fr)", height: "100%" }}>
        <Box
          component="ul"
          aria-label="Sets of house rules"
          sx={{ listStyle: "none", m: 0, p: 0, borderRight: 1, borderColor: "divider" }}
        >
          {sets.data?.map((s) => (
            <Box component="li" key={s.id} sx={{ borderBottom: 1, borderColor: "divider" }}>
              <ButtonBase
                aria-current={s.id === shown?.id ? "true" : undefined}
                onClick={() => setOpened(s.id)}
                sx={{
                  width: "100%",
                  display: "block",
                  textAlign: "left",
                  px: 2,
                  py: 1.25,
                  ...(s.id === shown?.id && {
                    bgcolor: "background.paper",
                    boxShadow: (t) => `inset 4px 0 0 ${t.palette.text.primary}`,
                  }),
                }}
              >
                <Typography sx={{ fontWeight: 700 }}>{s.name}</Typography>
                <Typography variant="body2" color="text.secondary">
                  {s.active ? "in force" : "kept"}
                </Typography>
              </ButtonBase>
            </Box>
          ))}
          {sets.data?.length === 0 && (
            <Typography component="li" sx={{ p: 2 }} color="text.secondary">
              No set is kept. Until one is, embedded profiles are kept, sRGB and grey gamma 2.2
              stand in where there is none, and recipes start perceptual with black point
              compensation.
            </Typography>
          )}
        </Box>
        {shown && (
          <Box sx={{ p: 3, overflow: "auto", maxWidth: 620 }}>
            <RulesForm
              key={`${shown.id}-${shown.revision}`}
              rules={shown.rules}
              busy={change.isPending}
              onChange={(rules) =>
                change.mutate({
                  id: shown.id,
                  patch: patchBetween(shown.rules, rules),
                  revision: shown.revision,
                })
              }
            />
            <Sentence>{sentenceOf(shown.rules)}</Sentence>
            <Box sx={{ display: "flex", gap: 1, mt: 2 }}>
              {shown.active ? (
                <Typography sx={{ fontWeight: 700, alignSelf: "center", mr: 1 }}>
                  This set is in force.
                </Typography>
              ) : (
                <Button variant="contained" onClick={() => use.mutate(shown.id)}>
                  Put in force
                </Button>
              )}
              <Button
                onClick={() =>
                  save(
                    `${shown.name.replace(/\W+/g, "-")}.json`,
                    JSON.stringify(shown.rules, null, 2) + "\n",
                    "application/json",
                  )
                }
              >
                Export as a file
              </Button>
              <Button
                onClick={() => create.mutate({ ...shown.rules, name: `${shown.name}, copy` })}
              >
                Duplicate
              </Button>
              <RemoveButton
                label="Remove"
                name={shown.name}
                disabled={shown.active && (sets.data?.length ?? 0) > 1}
                remove={() =>
                  ask(api.DELETE("/api/house-rules/{id}", { params: { path: { id: shown.id } } }))
                }
                restore={() =>
                  ask(
                    api.POST("/api/house-rules/{id}/restore", {
                      params: { path: { id: shown.id } },
                    }),
                  )
                }
                onDone={async () => {
                  setOpened(null);
                  await refresh();
                }}
              />
            </Box>
          </Box>
        )}
      </Box>
    </Shell>
  );
}
