import { Box, ButtonBase, Typography } from "@mui/material";
import { useQueries } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, useEffect, useRef } from "react";

import type { Followed, FollowedRow } from "../api";
import { labColour } from "../plots/labColour";
import { followedQuery, type Following, type Rows, WINDOW } from "../queries/paths";
import { number } from "../ui/numbers";
import { type RowChange, RowEditor } from "./RowEditor";
import { SHORT } from "./words";

export const SHOWN = { numbers: "numbers", lab: "L* a* b*", lch: "L* C* h" } as const;
/** Values of steps as their numbers, as Lab or as LCh. */
export type ShownAs = keyof typeof SHOWN;

/** How rows are changed where they stand. editing : the row that is being changed. */
interface Editor {
  editing: number | null;
  columns: readonly string[];
  busy: boolean;
  put: (row: FollowedRow, change: RowChange) => void;
  setEditing: (row: number | null) => void;
}

interface Props {
  following: Following;
  rows: Rows;
  report: Followed;
  shown: ShownAs;
  chosen: number | null;
  onChoose: (row: FollowedRow) => void;
  onSort: (sort: Rows["sort"]) => void;
  /** Null where the colours are no list. */
  editor: Editor | null;
}

const HIGH = 28;

const lch = (lab: readonly number[]) => {
  const [l = 0, a = 0, b = 0] = lab;
  return [l, Math.hypot(a, b), ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360];
};

/** What a step's cell says of a colour. */
export function said(row: FollowedRow, step: number, shown: ShownAs): string {
  const lab = row.lab[step];
  const values =
    shown === "numbers" || !lab ? (row.values[step] ?? []) : shown === "lab" ? lab : lch(lab);
  return values.map((v) => number(v, 1)).join("\u2002");
}

/** A step's columns as its numbers are shown. */
const head = (step: Followed["steps"][number] | undefined, shown: ShownAs) =>
  !step
    ? ""
    : shown === "numbers" || !step.coloured
      ? (step.space === "Lab" ? ["L*", "a*", "b*"] : step.columns).join("\u2002")
      : shown === "lab"
        ? "L*\u2002a*\u2002b*"
        : "L*\u2002C*\u2002h";

/** All colours, only those in sight fetched and drawn; the chosen one is the same everywhere. */
export function RowTable({
  following,
  rows,
  report,
  shown,
  chosen,
  onChoose,
  onSort,
  editor,
}: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: report.found,
    getScrollElement: () => frame.current,
    estimateSize: () => HIGH,
    overscan: 8,
  });
  const inSight = virtual.getVirtualItems();
  const [from, to] = [inSight[0]?.index ?? 0, inSight.at(-1)?.index ?? 0];
  const windows = Array.from(
    { length: Math.floor(to / WINDOW) - Math.floor(from / WINDOW) + 1 },
    (_, k) => Math.floor(from / WINDOW) + k,
  );
  const answers = useQueries({
    queries: windows.map((w) => ({
      ...followedQuery(following, rows, w * WINDOW),
      placeholderData: undefined,
    })),
  });
  const rowAt = (index: number): FollowedRow | undefined => {
    const at = windows.indexOf(Math.floor(index / WINDOW));
    return (
      answers[at]?.data?.rows[index % WINDOW] ?? (index < WINDOW ? report.rows[index] : undefined)
    );
  };
  const order = JSON.stringify([following, rows]);
  useEffect(() => {
    frame.current?.scrollTo({ top: 0 });
  }, [order]);
  const { first, second } = rows;
  const compared = first !== null && second !== null && first !== second;
  const steps = compared ? [first, second] : [second ?? 0];
  const columns = `46px 52px minmax(90px, 1.2fr) ${steps.map(() => "minmax(150px, 1fr)").join(" ")} ${compared ? "78px" : ""}`;
  const current = inSight.find((item) => rowAt(item.index)?.row === chosen)?.index;
  const go = (event: KeyboardEvent) => {
    if (editor && chosen !== null && (event.key === "Enter" || event.key === "F2")) {
      event.preventDefault();
      return editor.setEditing(chosen);
    }
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 15, PageUp: -15 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const next = Math.min(report.found - 1, Math.max(0, (current ?? (by > 0 ? -1 : 1)) + by));
    const row = rowAt(next);
    virtual.scrollToIndex(next);
    if (row) onChoose(row);
  };
  const Head = ({ sort, children }: { sort?: Rows["sort"]; children: string }) =>
    sort ? (
      <Box
        role="columnheader"
        aria-sort={rows.sort === sort ? (rows.descending ? "descending" : "ascending") : "none"}
      >
        <ButtonBase onClick={() => onSort(sort)} sx={{ fontWeight: 650, fontSize: 12 }}>
          {children}
          {rows.sort === sort ? (rows.descending ? " ↓" : " ↑") : ""}
        </ButtonBase>
      </Box>
    ) : (
      <Box role="columnheader">{children}</Box>
    );
  return (
    <Box
      role="grid"
      aria-label="Colours along the path"
      aria-rowcount={report.found + 1}
      sx={{ display: "flex", flexDirection: "column", minHeight: 200, flex: 1, fontSize: 13 }}
    >
      <Box
        ref={frame}
        tabIndex={0}
        aria-label="Rows"
        role="rowgroup"
        onKeyDown={go}
        sx={{ overflow: "auto", flex: 1, minHeight: 0, "&:focus-visible": { outlineOffset: -2 } }}
      >
        <Box
          role="row"
          sx={{
            display: "grid",
            gridTemplateColumns: columns,
            gap: 1,
            fontSize: 12,
            fontWeight: 650,
            borderBottom: 1,
            borderColor: "text.primary",
            pb: 0.25,
            position: "sticky",
            top: 0,
            zIndex: 1,
            bgcolor: "background.default",
          }}
        >
          <Head sort="row">No.</Head>
          <Box role="columnheader" aria-label="Colours" />
          <Head sort="name">Name</Head>
          {steps.map((step) => (
            <Head key={step}>{`${step + 1}: ${head(report.steps[step], shown)}`}</Head>
          ))}
          {compared && <Head sort="difference">{SHORT[rows.formula]}</Head>}
        </Box>
        <Box sx={{ height: virtual.getTotalSize(), position: "relative" }}>
          {inSight.map((item) => {
            const row = rowAt(item.index);
            const mine = row !== undefined && row.row === chosen;
            const changing = mine && editor !== null && editor.editing === row.row;
            return (
              <Box
                key={item.key}
                role="row"
                aria-rowindex={item.index + 2}
                aria-selected={mine}
                onClick={() => row && onChoose(row)}
                onDoubleClick={() => row && editor?.setEditing(row.row)}
                sx={{
                  position: "absolute",
                  top: 0,
                  left: 0,
                  right: 0,
                  height: HIGH,
                  transform: `translateY(${item.start}px)`,
                  display: "grid",
                  gridTemplateColumns: columns,
                  gap: 1,
                  alignItems: "center",
                  borderBottom: 1,
                  borderColor: "divider",
                  cursor: "pointer",
                  fontVariantNumeric: "tabular-nums",
                  ...(mine && {
                    bgcolor: "background.paper",
                    boxShadow: (t) => `inset 4px 0 0 ${t.palette.text.primary}`,
                  }),
                }}
              >
                {row ? (
                  <>
                    <Box role="gridcell" sx={{ pl: 1, color: "text.secondary" }}>
                      {row.row + 1}
                    </Box>
                    <Box role="gridcell" sx={{ display: "flex", height: 18 }} aria-hidden>
                      {steps.map((step) => {
                        const lab = row.lab[step];
                        return (
                          <Box
                            key={step}
                            sx={{ flex: 1, bgcolor: lab ? labColour(lab) : "transparent" }}
                          />
                        );
                      })}
                    </Box>
                    {changing ? (
                      <Box role="gridcell" sx={{ gridColumn: "3 / -1" }}>
                        <RowEditor
                          row={row}
                          columns={editor.columns}
                          busy={editor.busy}
                          onPut={(change) => editor.put(row, change)}
                          onLeave={() => {
                            editor.setEditing(null);
                            frame.current?.focus();
                          }}
                        />
                      </Box>
                    ) : (
                      <>
                        <Typography role="gridcell" component="div" noWrap sx={{ fontSize: 13 }}>
                          {row.name}
                        </Typography>
                        {steps.map((step) => (
                          <Box key={step} role="gridcell">
                            {said(row, step, shown)}
                          </Box>
                        ))}
                        {compared && (
                          <Box role="gridcell" sx={{ fontWeight: 650 }}>
                            {row.difference === null ? "" : number(row.difference, 2)}
                          </Box>
                        )}
                      </>
                    )}
                  </>
                ) : (
                  <Box
                    role="gridcell"
                    sx={{ gridColumn: "1 / -1", color: "text.secondary", pl: 1 }}
                  >
                    …
                  </Box>
                )}
              </Box>
            );
          })}
        </Box>
      </Box>
    </Box>
  );
}
