import { Box, Button, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useRef } from "react";

import { api, ask, type KeptAim, onRevision, ProblemError } from "../api";
import { receiveAim } from "../queries/upload";
import { ClashNotice, Notice, NumberField, Sheet, TextLine, useDraft } from "../ui";
import { FileInput } from "../ui/FileInput";

const LIMITS = {
  paper: ["Paper", "ΔE00", "The unprinted medium, absolute."],
  solids: ["Solids", "ΔE00", "Single inks at 100 %, and colours that are no overprint."],
  overprints: ["Overprints", "ΔE00", "Two or three process inks at 100 %."],
  tones: ["Tone value increase", "%", "Points that a tone may lie above or below its aim."],
} as const;
type Tolerances = Partial<Record<keyof typeof LIMITS, number | null>>;

interface Props {
  /** The one that changes, null for a new one. */
  kept: KeptAim | null;
  onClose: () => void;
  onKept: (aim: KeptAim) => void;
}

interface Given {
  [part: string]: unknown;
  name: string;
  source: string;
  rows: string;
  tolerances: Tolerances;
}
const lacks = ({ name, rows }: Given) => ({
  ...(!name.trim() && { name: "An aim needs a name." }),
  ...(!rows.trim() && { rows: "An aim needs a row at least." }),
});

/** Aims as rows of text, with how far each kind may be missed; or taken from a file. */
export function AimSheet({ kept, onClose, onKept }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const save = useMutation({
    mutationFn: ({ given, revision }: { given: Given; revision: number | null }) =>
      kept
        ? ask(
            api.PATCH("/api/aims/{id}", {
              params: { path: { id: kept.id } },
              body: changed(kept, given) as never,
              ...onRevision(revision),
            }),
          )
        : ask(api.POST("/api/aims", { body: given as never })),
    onSuccess: onKept,
  });
  const take = useMutation({ mutationFn: receiveAim, onSuccess: onKept });
  const form = useDraft<Given>(
    {
      name: kept?.name ?? "",
      source: kept?.aim.source ?? "",
      rows: kept?.rows ?? "",
      tolerances: kept?.aim.tolerances ?? {},
    },
    (given) => save.mutateAsync({ given, revision: kept?.revision ?? null }),
    lacks,
  );
  const { draft, put } = form;
  const clash =
    save.error instanceof ProblemError && save.error.problem.fields.length > 0 ? save.error : null;
  const problem = clash ? null : (save.error ?? take.error);
  return (
    <Sheet
      title={kept ? "Change the aim" : "A new aim"}
      onClose={onClose}
      form={form}
      actions={
        <>
          {!kept && <Button onClick={() => input.current?.click()}>From a file…</Button>}
          <Button onClick={onClose}>Close</Button>
          <Button type="submit" variant="contained" disabled={save.isPending}>
            Keep
          </Button>
        </>
      }
    >
      <FileInput
        ref={input}
        label="File of an aim"
        accept=".json,.txt,.csv,.cgats,.it8"
        onFiles={([file]) => file && take.mutate(file)}
      />
      {problem && (
        <Notice
          problem={problem}
          onDismiss={() => {
            save.reset();
            take.reset();
          }}
        />
      )}
      {clash && (
        <ClashNotice
          problem={clash}
          onTheirs={onClose}
          onMine={() => save.mutate({ given: draft, revision: null })}
        />
      )}
      <TextLine
        label="Name"
        value={draft.name}
        wrong={form.problems.name}
        placeholder="Coated, contract of June"
        onChange={(name) => put({ name })}
      />
      <TextLine
        label="Where the numbers are from"
        value={draft.source}
        placeholder="Standard, edition and table; or the customer’s letter"
        onChange={(source) => put({ source })}
      />
      <TextLine
        label="Colours and tones"
        lines={8}
        value={draft.rows}
        wrong={form.problems.rows}
        placeholder={"paper\t93\t0\t-3\ncyan\t56\t-36\t-50\nM+Y\t47\t66\t48\nK\t50\t16"}
        onChange={(rows) => put({ rows })}
      />
      <Typography color="text.secondary" sx={{ mt: 0.5 }}>
        A row each: a colour with L* a* b* (absolute, D50), or an ink with a tone value and its
        increase in percent. A file may hold the same rows, an aim as Plinto writes it, or CMYK
        characterisation data in CGATS text: its paper, solids, overprints and single inks are
        taken.
      </Typography>
      <Typography variant="h3" sx={{ mt: 1.5 }}>
        May be missed by
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 3 }}>
        {(Object.keys(LIMITS) as (keyof typeof LIMITS)[]).map((key) => (
          <NumberField
            key={key}
            label={LIMITS[key][0]}
            help={LIMITS[key][2]}
            value={draft.tolerances[key] ?? null}
            unit={LIMITS[key][1]}
            min={0.1}
            max={50}
            step={0.1}
            empty="not judged"
            onRest={(v) => put({ tolerances: { ...draft.tolerances, [key]: v } })}
          />
        ))}
      </Box>
    </Sheet>
  );
}

/** Only what differs, so that another window's change of the rest stands. */
function changed(kept: KeptAim, given: Given) {
  return {
    ...(given.name !== kept.name && { name: given.name }),
    ...(given.source !== kept.aim.source && { source: given.source }),
    ...(given.rows !== kept.rows && { rows: given.rows }),
    ...(JSON.stringify(given.tolerances) !== JSON.stringify(kept.aim.tolerances) && {
      tolerances: given.tolerances,
    }),
  };
}
