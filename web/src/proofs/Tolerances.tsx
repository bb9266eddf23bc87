import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import {
  api,
  ask,
  onRevision,
  ProblemError,
  type ProofTolerances,
  type ToleranceSet,
} from "../api";
import { keys } from "../queries/keys";
import { startingTolerancesQuery, tolerancesQuery } from "../queries/proofs";
import {
  ClashNotice,
  Explained,
  Notice,
  NumberField,
  Pick,
  RemoveButton,
  Sheet,
  TextLine,
} from "../ui";
import { CRITERIA, LIMITS } from "./words";

interface Props {
  value: ProofTolerances | null;
  onChange: (chosen: ProofTolerances) => void;
}

/** By what a strip is judged: sets to start from and one's own; made and changed here. */
export function Tolerances({ value, onChange }: Props) {
  const client = useQueryClient();
  const starting = useQuery(startingTolerancesQuery);
  const own = useQuery(tolerancesQuery);
  const [sheet, setSheet] = useState<ToleranceSet | "new" | null>(null);
  const sets = [
    ...(own.data ?? []).map((s) => s.tolerances),
    ...(starting.data ?? []).map((s) => s.tolerances),
  ];
  const mine = own.data?.find((s) => s.name === value?.name);
  const refresh = () => client.invalidateQueries({ queryKey: keys.tolerances });
  const at = { params: { path: { id: mine?.id ?? 0 } } };
  return (
    <Box
      role="group"
      aria-label="Tolerances"
      sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1 }}
    >
      <Typography>
        <Explained text="What the strip is judged by. The sets to start from hold numbers for what ISO 12647-7 and ISO 12647-8 ask of; compare them with your edition and keep your own.">
          Tolerances
        </Explained>
      </Typography>
      <Pick
        label="Tolerances"
        width={190}
        value={value?.name ?? ""}
        options={Object.fromEntries(sets.map((s) => [s.name, s.name]))}
        onChange={(name) => {
          const chosen = sets.find((s) => s.name === name);
          if (chosen) onChange(chosen);
        }}
      />
      {mine && <Button onClick={() => setSheet(mine)}>Change…</Button>}
      <Button onClick={() => setSheet("new")}>New set…</Button>
      {mine && (
        <RemoveButton
          label="Remove set"
          name={mine.name}
          remove={() => ask(api.DELETE("/api/proof-tolerances/{id}", at))}
          restore={() => ask(api.POST("/api/proof-tolerances/{id}/restore", at))}
          onDone={refresh}
        />
      )}
      {own.error && <Notice problem={own.error} onRetry={() => void own.refetch()} />}
      {sheet !== null && (
        <ToleranceSheet
          kept={sheet === "new" ? null : sheet}
          start={value}
          taken={sets.map((s) => s.name)}
          onClose={() => {
            setSheet(null);
            void refresh();
          }}
          onKept={async (made) => {
            await refresh();
            setSheet(null);
            onChange(made.tolerances);
          }}
        />
      )}
    </Box>
  );
}

const NOTHING: ProofTolerances = {
  name: "",
  paper: null,
  mean: null,
  p95: null,
  most: null,
  solids: null,
  solid_hue: null,
  greys: null,
};

interface SheetProps {
  kept: ToleranceSet | null;
  start: ProofTolerances | null;
  taken: string[];
  onClose: () => void;
  onKept: (made: ToleranceSet) => void;
}

function ToleranceSheet({ kept, start, taken, onClose, onKept }: SheetProps) {
  const before = kept?.tolerances ?? { ...NOTHING, ...start, name: "" };
  const [set, setSet] = useState(before);
  const save = useMutation({
    mutationFn: (revision: number | null) =>
      kept
        ? ask(
            api.PATCH("/api/proof-tolerances/{id}", {
              params: { path: { id: kept.id } },
              body: changed(before, set) as never,
              ...onRevision(revision),
            }),
          )
        : ask(api.POST("/api/proof-tolerances", { body: { tolerances: set } })),
    onSuccess: onKept,
  });
  const clash =
    save.error instanceof ProblemError && save.error.problem.fields.length > 0 ? save.error : null;
  const double = set.name.trim() !== kept?.name && taken.includes(set.name.trim());
  return (
    <Sheet
      title={kept ? "Change the tolerances" : "New tolerances"}
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button
            variant="contained"
            disabled={!set.name.trim() || double || save.isPending}
            onClick={() => save.mutate(kept?.revision ?? null)}
          >
            Keep
          </Button>
        </>
      }
    >
      {save.error && !clash && <Notice problem={save.error} onDismiss={() => save.reset()} />}
      {clash && <ClashNotice problem={clash} onTheirs={onClose} onMine={() => save.mutate(null)} />}
      <TextLine
        label="Name"
        value={set.name}
        placeholder="Contract of June"
        onChange={(name) => setSet({ ...set, name })}
      />
      {double && <Typography role="alert">There is a set of this name already.</Typography>}
      <Box sx={{ mt: 1 }}>
        {LIMITS.map((key) => (
          <NumberField
            key={key}
            label={CRITERIA[key][0]}
            help={CRITERIA[key][2]}
            value={set[key] ?? null}
            unit={CRITERIA[key][1]}
            min={0}
            max={100}
            step={0.1}
            empty="not judged"
            onRest={(v) => setSet({ ...set, [key]: v })}
          />
        ))}
      </Box>
    </Sheet>
  );
}

/** Only what differs, so that another window's change of the rest stands. */
const changed = (before: ProofTolerances, now: ProofTolerances) =>
  Object.fromEntries(
    (["name", ...LIMITS] as const)
      .filter((k) => (before[k] ?? null) !== (now[k] ?? null))
      .map((k) => [k, now[k] ?? null]),
  );
