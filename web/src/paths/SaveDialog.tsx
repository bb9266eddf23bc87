import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type Followed, type SavedPath } from "../api";
import { keys } from "../queries/keys";
import type { Following } from "../queries/paths";
import { Choice, LimitField, Notice, Sheet, TextLine, Toggle } from "../ui";
import { number } from "../ui/numbers";
import { gridsOf, kindsOf, type SavedKind } from "./saving";

interface Props {
  following: Following;
  /** The space that the first step takes, and what the last one gives. */
  from: string;
  steps: Followed["steps"];
  onClose: () => void;
}

const KINDS: Record<SavedKind, string> = {
  link: "A device link: numbers straight to numbers",
  abstract: "An abstract profile: colours to colours",
  baked: "A profile that looks like the end of the path",
  cube: "A .cube table: RGB to RGB",
};

/** What a path can be saved as, with its options; then how far the finished file is from the path. */
export function SaveDialog({ following, from, steps, onClose }: Props) {
  const client = useQueryClient();
  const to = steps.at(-1)?.space ?? "";
  const kinds = kindsOf(from, to, steps.at(-1)?.coloured ?? false);
  const [kind, setKind] = useState<SavedKind>(kinds[0] ?? "link");
  const grids = gridsOf(from);
  const [grid, setGrid] = useState("");
  const [title, setTitle] = useState("");
  const [keepBlack, setKeepBlack] = useState(false);
  const [keepInks, setKeepInks] = useState(false);
  const [tac, setTac] = useState<number | null>(null);
  const inks = kind === "link" && !["RGB", "Lab", "GRAY"].includes(to);
  const four = kind === "link" && from === "CMYK" && to === "CMYK";
  const save = useMutation({
    mutationFn: (): Promise<SavedPath> =>
      ask(
        api.POST("/api/colour-paths/saved", {
          body: {
            path: { steps: following.steps },
            view: following.view,
            options: {
              kind,
              title,
              grid: grid ? Number(grid) : null,
              keep_black: four && keepBlack,
              keep_inks: four && keepInks,
              tac: inks ? tac : null,
            },
          } as never,
        }),
      ),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.profiles }),
        client.invalidateQueries({ queryKey: keys.tables }),
      ]),
  });
  const made = save.data;
  return (
    <Sheet
      title="Save the path as one table"
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button
            variant="contained"
            disabled={kinds.length === 0 || save.isPending}
            onClick={() => save.mutate()}
          >
            {save.isPending ? "Saving…" : "Save"}
          </Button>
        </>
      }
    >
      {save.error && <Notice problem={save.error} onDismiss={() => save.reset()} />}
      {kinds.length === 0 && (
        <Typography>
          This path ends in numbers that nothing gives a meaning: put the profile they are meant for
          after it.
        </Typography>
      )}
      {kinds.length > 0 && (
        <>
          <Choice
            label="As"
            value={kind}
            options={
              Object.fromEntries(kinds.map((k) => [k, KINDS[k]])) as Record<SavedKind, string>
            }
            onChange={(next) => {
              setKind(next);
              save.reset();
            }}
          />
          <Choice
            label="Nodes a side"
            help="More follow the path closer and make a larger file."
            value={grid}
            options={{
              "": "as usual",
              ...Object.fromEntries(grids.map((n) => [String(n), String(n)])),
            }}
            onChange={setGrid}
          />
          {four && (
            <>
              <Toggle
                label="Black stays black"
                help="Black ink alone comes out as black ink alone, as light as the path makes it."
                checked={keepBlack}
                onChange={setKeepBlack}
              />
              <Toggle
                label="Inks stay alone"
                help="Every ink alone comes out as that ink alone."
                checked={keepInks}
                onChange={setKeepInks}
              />
            </>
          )}
          {inks && (
            <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 0.5 }}>
              <Typography sx={{ flex: 1 }}>Total ink at most</Typography>
              <LimitField
                label="Total ink at most"
                value={tac}
                unit="%"
                min={50}
                max={1500}
                empty="free"
                width={84}
                onRest={setTac}
              />
            </Box>
          )}
          <TextLine
            label="Description"
            value={title}
            placeholder={steps.map((step) => step.name).join(" to ")}
            onChange={setTitle}
          />
        </>
      )}
      {made && (
        <Box role="status" aria-label="What was saved" sx={{ mt: 2 }}>
          <Typography>
            <b>{made.name}</b> is among the {made.table === null ? "profiles" : "colour tables"}{" "}
            now. {made.report.sentence}
          </Typography>
          <Typography sx={{ mt: 0.5 }}>
            From the path, {made.report.grid} nodes a side: mean{" "}
            {number((made.report.inside ?? made.report.everywhere).mean, 3)}, 99 %{" "}
            {number((made.report.inside ?? made.report.everywhere).p99, 2)}, greatest{" "}
            {number((made.report.inside ?? made.report.everywhere).max, 2)}{" "}
            {made.report.unit === "dE00" ? "ΔE00" : "%"}
            {made.report.inside
              ? ` within the gamut; ${number(made.report.everywhere.mean, 3)} in the mean everywhere`
              : ""}
            .{made.report.tac !== null && ` At most ${number(made.report.tac, 1)} % of ink.`}
          </Typography>
          <Button
            component="a"
            sx={{ mt: 1 }}
            href={
              made.table === null
                ? `/api/profiles/${made.profile}/file`
                : `/api/tables/${made.table}/file`
            }
            download
          >
            As a file
          </Button>
        </Box>
      )}
    </Sheet>
  );
}
