import { Box, Button, InputBase, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type Followed, type FollowedRow, type SwatchList } from "../api";
import { keys } from "../queries/keys";
import type { Following, Rows } from "../queries/paths";
import { LimitField, Notice, Pick } from "../ui";
import type { RowChange } from "./RowEditor";
import { RowTable, SHOWN, type ShownAs } from "./RowTable";
import { SORTS } from "./words";

/** Which rows are shown, and in which order. */
export interface Sought {
  text: string;
  beyond: number | null;
  sort: Rows["sort"];
  descending: boolean;
}

export const ALL_ROWS: Sought = { text: "", beyond: null, sort: "row", descending: false };

interface Props {
  following: Following;
  rows: Rows;
  report: Followed;
  list: SwatchList | undefined;
  sought: Sought;
  onSought: (next: Sought) => void;
  chosen: FollowedRow | null;
  onChoose: (row: FollowedRow | null) => void;
}

/** The table of colours with what is sought in it; rows of a list are changed and taken out in it. */
export function ColourRows({
  following,
  rows,
  report,
  list,
  sought,
  onSought,
  chosen,
  onChoose,
}: Props) {
  const client = useQueryClient();
  const [shown, setShown] = useState<ShownAs>("numbers");
  const [editing, setEditing] = useState<number | null>(null);
  const compared = rows.first !== null;
  const target = report.steps[following.steps.length > 1 && compared ? (rows.second ?? 0) : 0];
  const inks = target && !["RGB", "Lab", "GRAY"].includes(target.space);
  const change = useMutation({
    mutationFn: (what: { put: { row: number }[] } | { remove: number[] }) =>
      ask(
        api.PATCH("/api/swatch-lists/{id}", {
          params: { path: { id: list?.id ?? 0 } },
          body: { ...what, digest: list?.digest } as never,
        }),
      ),
    onSuccess: async (_, what) => {
      setEditing(null);
      if ("remove" in what) onChoose(null);
      await client.invalidateQueries({ queryKey: keys.swatches });
      await client.invalidateQueries({ queryKey: [...keys.paths, "followed"] });
    },
    // Where somebody else changed the list, it is shown as it is now.
    onError: () => client.invalidateQueries({ queryKey: keys.swatches }),
  });
  const put = (row: FollowedRow, what: RowChange) =>
    change.mutate({ put: [{ row: row.row, ...what }] });
  const sorts = Object.fromEntries(
    Object.entries(SORTS).filter(
      ([sort]) => (sort !== "difference" || compared) && (sort !== "total" || inks),
    ),
  ) as typeof SORTS;
  return (
    <>
      <Box
        role="search"
        sx={{ display: "flex", gap: 1.5, alignItems: "center", mb: 1, flexWrap: "wrap" }}
      >
        <InputBase
          value={sought.text}
          placeholder="Name holds…"
          inputProps={{ "aria-label": "Name holds" }}
          onChange={(e) => onSought({ ...sought, text: e.target.value })}
          sx={{
            width: 130,
            fontSize: 13,
            border: 1,
            borderColor: "text.secondary",
            px: 0.75,
            bgcolor: "background.paper",
          }}
        />
        {compared && (
          <Box sx={{ display: "flex", alignItems: "center", gap: 0.75 }}>
            <Typography component="span" variant="body2">
              beyond
            </Typography>
            <LimitField
              label="Difference beyond"
              value={sought.beyond}
              unit=""
              min={0}
              max={200}
              empty="all"
              width={56}
              onRest={(beyond) => onSought({ ...sought, beyond })}
            />
          </Box>
        )}
        <Pick
          label="Order"
          value={rows.sort}
          options={sorts}
          onChange={(sort) => onSought({ ...sought, sort })}
        />
        <Button
          aria-pressed={sought.descending}
          onClick={() => onSought({ ...sought, descending: !sought.descending })}
        >
          {sought.descending ? "falling" : "rising"}
        </Button>
        <Pick label="Values as" value={shown} options={SHOWN} onChange={setShown} />
        {report.found < report.count && (
          <Typography variant="body2">{report.found} shown</Typography>
        )}
        <Box sx={{ flex: 1 }} />
        {chosen && list && (
          <>
            <Button onClick={() => setEditing(chosen.row)}>Change row</Button>
            {report.count > 1 && (
              <Button onClick={() => change.mutate({ remove: [chosen.row] })}>Take row out</Button>
            )}
          </>
        )}
      </Box>
      {change.error && <Notice problem={change.error} onDismiss={() => change.reset()} />}
      {report.found === 0 ? (
        <Typography role="status">No colour answers to that.</Typography>
      ) : (
        <RowTable
          following={following}
          rows={rows}
          report={report}
          shown={shown}
          chosen={chosen?.row ?? null}
          onChoose={(row) => {
            if (row.row !== editing) setEditing(null);
            onChoose(row);
          }}
          onSort={(sort) =>
            onSought({
              ...sought,
              sort,
              descending: sought.sort === sort ? !sought.descending : sort === "difference",
            })
          }
          editor={
            list
              ? { editing, columns: columnsOf(list.space), busy: change.isPending, put, setEditing }
              : null
          }
        />
      )}
    </>
  );
}

/** What the numbers of a list are called. */
const columnsOf = (space: string): string[] =>
  space === "Lab" ? ["L*", "a*", "b*"] : space === "GRAY" ? ["grey"] : [...space];
