import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, ask, type Condition, type ConditionChange, onRevision, ProblemError } from "../api";
import { type Patch, patchBetween } from "../api/patches";
import { proposalQuery, usesQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { ClashNotice, Notice, RemoveButton } from "../ui";
import { labText } from "../ui/numbers";
import { ConditionForm } from "./ConditionForm";
import { InkEditor } from "./InkEditor";
import { Reading } from "./Reading";
import { ReplaceProfile } from "./ReplaceProfile";
import { changeOf, inkNames, inksOf, processName } from "./words";

const KEYS = new Set(["ink_rules.limits", "supplies.inks"]);

interface Props {
  condition: Condition;
  onOpen: (id: number | null) => void;
}

/** One condition: what it is, what its profile reaches, what uses it; one's own can be changed. */
export function ConditionDetail({ condition: c, onOpen }: Props) {
  const client = useQueryClient();
  const [mode, setMode] = useState<"read" | "edit" | "replace" | "inks">("read");
  const [said, setSaid] = useState("");
  const proposal = useQuery(proposalQuery(c.profile.id));
  const uses = useQuery(usesQuery(c.id));
  const refresh = () => client.invalidateQueries({ queryKey: keys.conditions });
  const path = { params: { path: { id: c.id } } };
  const change = useMutation({
    mutationFn: ({ draft, anyway }: { draft: ConditionChange; anyway?: boolean }) =>
      ask(
        api.PATCH("/api/conditions/{id}", {
          ...path,
          body: patchBetween(changeOf(c), draft as unknown as Patch, KEYS) as never,
          ...onRevision(anyway ? null : c.revision),
        }),
      ),
    onSuccess: async () => {
      await refresh();
      setMode("read");
    },
  });
  const copy = useMutation({
    mutationFn: () => ask(api.POST("/api/conditions/{id}/copy", path)),
    onSuccess: async (made) => {
      await refresh();
      onOpen(made.id);
    },
  });
  const clash =
    change.error instanceof ProblemError && change.error.problem.fields.length > 0
      ? change.error
      : null;
  const replaced = (moved: number | null) => {
    setMode("read");
    if (moved === null) return;
    const took = moved === 1 ? "recipe or policy" : "recipes and policies";
    setSaid(
      moved === 0
        ? "The profile is replaced."
        : `The profile is replaced; ${moved} ${took} took it.`,
    );
  };
  const error = (clash ? null : change.error) ?? copy.error;
  return (
    <Box component="section" aria-label={c.name} sx={{ p: 2, minWidth: 0 }}>
      <Typography variant="h1" component="h2" sx={{ overflowWrap: "anywhere" }}>
        {c.name}
      </Typography>
      <Typography color="text.secondary">
        {[c.printer, c.medium].filter((t) => t && t !== "-").join(", ") ||
          "Press and medium are not named."}
      </Typography>
      <Typography sx={{ mt: 0.5 }}>
        {processName(c.process ?? "")}, {inksOf(c.profile)}
        {c.mirror ? ", mirrored" : ""}. Profile “{c.profile.description}”
        {c.profile.facts ? (
          <>
            , paper <span data-explained="paper_white">{labText(c.profile.facts.white)}</span>
          </>
        ) : null}
        .
      </Typography>
      {c.notes && <Typography sx={{ mt: 0.5, whiteSpace: "pre-wrap" }}>{c.notes}</Typography>}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, my: 1.5 }}>
        {c.own && (
          <Button
            variant={mode === "edit" ? "contained" : "outlined"}
            onClick={() => {
              change.reset();
              setMode(mode === "edit" ? "read" : "edit");
            }}
          >
            Change
          </Button>
        )}
        {c.own && <Button onClick={() => setMode("replace")}>Replace the profile…</Button>}
        {c.own && c.profile.inks !== null && c.profile.colour_space.endsWith("CLR") && (
          <Button onClick={() => setMode("inks")}>Inks…</Button>
        )}
        <Button disabled={copy.isPending} onClick={() => copy.mutate()}>
          Copy
        </Button>
        <Button component="a" href={`/api/conditions/${c.id}/file`} download>
          As a file
        </Button>
        <Button component={Link} to={`/gamuts?of=condition:${c.id}&of=profile:srgb`}>
          Gamut
        </Button>
        <Button component={Link} to={`/profiles/${c.profile.id}`}>
          Examine the profile
        </Button>
        <Button
          component={Link}
          to={`/questions?ask=greys&profile=${c.profile.id}&press=${c.profile.id}&first=${c.profile.id}&destination=${c.profile.id}`}
        >
          Ask about it
        </Button>
        {c.own && (
          <RemoveButton
            label="Retire"
            name={c.name}
            uses={() => ask(api.GET("/api/conditions/{id}/uses", path))}
            remove={() => ask(api.DELETE("/api/conditions/{id}", path))}
            restore={() => ask(api.POST("/api/conditions/{id}/restore", path))}
            onDone={async () => {
              onOpen(null);
              await refresh();
            }}
            kept="They go on with it; it only leaves the lists."
          />
        )}
      </Box>
      {!c.own && (
        <Typography variant="body2" color="text.secondary">
          It comes with Plinto and stays as it is; a copy can be changed.
        </Typography>
      )}
      {said && (
        <Typography role="status" sx={{ my: 1, fontWeight: 650 }}>
          {said}
        </Typography>
      )}
      {error && (
        <Notice
          problem={error}
          onDismiss={() => {
            change.reset();
            copy.reset();
          }}
        />
      )}
      {clash && (
        <ClashNotice
          problem={clash}
          onTheirs={() => {
            change.reset();
            setMode("read");
          }}
          onMine={() => {
            if (change.variables) change.mutate({ ...change.variables, anyway: true });
          }}
        />
      )}
      {mode === "edit" && (
        <ConditionForm
          key={c.revision}
          start={changeOf(c)}
          inks={inkNames(c.profile)}
          keep="Keep the changes"
          busy={change.isPending}
          onKeep={(draft) => change.mutateAsync({ draft })}
          onClose={() => setMode("read")}
        />
      )}
      {mode === "replace" && <ReplaceProfile condition={c} onDone={replaced} />}
      {mode === "inks" && <InkEditor key={c.revision} condition={c} onDone={replaced} />}
      {mode !== "edit" && (
        <>
          {proposal.isPending && (
            <Typography sx={{ mt: 1 }}>Reading the profile’s tables…</Typography>
          )}
          {proposal.error && <Notice problem={proposal.error} />}
          {proposal.data && (
            <Box sx={{ mt: 1 }}>
              <Reading proposal={proposal.data} />
            </Box>
          )}
          <Typography variant="h3" sx={{ mt: 1.5 }}>
            Used by
          </Typography>
          {uses.data?.length === 0 && <Typography color="text.secondary">Nothing yet.</Typography>}
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {uses.data?.map((u) => (
              <li key={u.kind + u.place + u.name}>
                {u.kind}{" "}
                <Box component={Link} to={u.place} sx={{ color: "text.primary", fontWeight: 650 }}>
                  {u.name}
                </Box>
              </li>
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}
