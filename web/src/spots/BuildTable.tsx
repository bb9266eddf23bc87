import { Box, Button, Typography } from "@mui/material";
import { memo, useState } from "react";

import type { Condition, SpotBuild } from "../api";
import { buildText } from "../plots/builds";
import { labText, number, Pick } from "../ui";
import { Pair } from "./Pair";

/** One press: its builds in the list's order, null while they are sought. */
export interface Column {
  condition: Condition;
  builds: SpotBuild[] | null;
  problem: Error | null;
}

interface Props {
  columns: Column[];
  fine: number;
  chosen: { row: number; condition: number } | null;
  onChoose: (cell: { row: number; condition: number }) => void;
  /** Left out where the colours have no names that documents know. */
  onTake?: ((column: Column) => void) | undefined;
}

const ORDERS = { list: "as listed", worst: "worst miss first" } as const;

/** Colours down, presses across; each cell has the print beside the colour asked for. */
export function BuildTable({ columns, fine, chosen, onChoose, onTake }: Props) {
  const [order, setOrder] = useState<keyof typeof ORDERS>("list");
  const first = columns.find((c) => c.builds)?.builds ?? [];
  const worst = (row: number) => Math.max(...columns.map((c) => c.builds?.[row]?.best.de00 ?? 0));
  const rows = first.map((_, i) => i);
  if (order === "worst") rows.sort((a, b) => worst(b) - worst(a) || a - b);
  return (
    <Box
      component="table"
      aria-label="Builds"
      sx={{
        borderCollapse: "separate",
        borderSpacing: 0,
        fontSize: 12.5,
        "& th, & td": {
          textAlign: "left",
          verticalAlign: "top",
          px: 1,
          py: 0.75,
          borderBottom: 1,
          borderColor: "divider",
        },
        "& th": { position: "sticky", left: -16, bgcolor: "background.default", zIndex: 1 },
        "& td button": {
          all: "unset",
          cursor: "pointer",
          display: "flex",
          gap: 1,
          p: 0.5,
          "&:focus-visible": { outline: "2px solid currentColor" },
          "&[aria-pressed=true]": { boxShadow: "inset 0 0 0 2px currentColor" },
        },
        "& thead th": { top: -16 },
        "& thead th:first-of-type": { zIndex: 2 },
      }}
    >
      <thead>
        <tr>
          <Box component="th" sx={{ minWidth: 150 }}>
            <Pick
              label="Order of the colours"
              width={140}
              value={order}
              options={ORDERS}
              onChange={setOrder}
            />
          </Box>
          {columns.map((column) => {
            const reached = column.builds?.filter((b) => b.best.de00 <= fine).length;
            return (
              <Box component="th" key={column.condition.id} sx={{ minWidth: 158, maxWidth: 210 }}>
                <Typography sx={{ fontWeight: 700 }}>{column.condition.name}</Typography>
                <Typography variant="body2" sx={{ fontWeight: 400, minHeight: 20 }}>
                  {column.problem
                    ? column.problem.message
                    : column.builds
                      ? `${reached} of ${column.builds.length} within ${number(fine)}`
                      : "Seeking…"}
                </Typography>
                {column.builds && onTake && (
                  <Button sx={{ fontSize: 12, mt: 0.5 }} onClick={() => onTake(column)}>
                    Into a policy…
                  </Button>
                )}
              </Box>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const aim = first[row];
          return (
            aim && (
              <tr key={row}>
                <th scope="row">
                  <Typography sx={{ fontWeight: 600 }}>{aim.name}</Typography>
                  <Typography variant="body2" color="text.secondary">
                    {labText(aim.aim)}
                  </Typography>
                </th>
                {columns.map(({ condition, builds }) => {
                  const one = builds?.[row];
                  const here = chosen?.row === row && chosen.condition === condition.id;
                  return (
                    <td key={condition.id}>
                      {one && (
                        <Cell
                          build={one}
                          row={row}
                          condition={condition.id}
                          press={condition.name}
                          fine={fine}
                          here={here}
                          onChoose={onChoose}
                        />
                      )}
                    </td>
                  );
                })}
              </tr>
            )
          );
        })}
      </tbody>
    </Box>
  );
}

interface CellProps {
  build: SpotBuild;
  row: number;
  condition: number;
  press: string;
  fine: number;
  here: boolean;
  onChoose: Props["onChoose"];
}

/** Drawn again only where it changes: a long list on many presses has thousands. */
const Cell = memo(function Cell({ build, row, condition, press, fine, here, onChoose }: CellProps) {
  return (
    <button
      type="button"
      aria-pressed={here}
      aria-label={`${build.name} on ${press}`}
      onClick={() => onChoose({ row, condition })}
    >
      <Pair aim={build.aim} printed={build.best.lab} />
      <span>
        <span
          data-explained="build_miss"
          style={{ display: "block", fontWeight: build.best.de00 > fine ? 700 : 400 }}
        >
          ΔE00 {number(build.best.de00)}
        </span>
        {buildText(build.best.inks)}
      </span>
    </button>
  );
});
