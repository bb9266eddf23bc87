import { Box, Button, InputBase } from "@mui/material";

import type { FollowedRow } from "../api";
import { Form, useDraft } from "../ui";

/** What a row is to hold. */
export interface RowChange {
  name: string;
  values: number[];
}

/** Typed numbers with blanks, commas or semicolons between them; null where they are not `count` numbers. */
export function typedNumbers(text: string, count: number): number[] | null {
  const parts = (
    /[;\t]/.test(text) ? text.replaceAll(",", ".").split(/[;\t]/) : text.split(/[,\s]+/)
  )
    .map((part) => part.trim().replace("−", "-"))
    .filter(Boolean);
  const values = parts.map(Number);
  return values.length === count && values.every(Number.isFinite) ? values : null;
}

interface Props {
  row: FollowedRow;
  columns: readonly string[];
  busy: boolean;
  onPut: (change: RowChange) => void;
  onLeave: () => void;
}

const FIELD = {
  fontSize: 13,
  height: 24,
  px: 0.5,
  border: 1,
  borderColor: "text.secondary",
  bgcolor: "background.paper",
} as const;

/** A row's name and its numbers in the list, changed where they stand; Enter puts them, Escape leaves. */
export function RowEditor({ row, columns, busy, onPut, onLeave }: Props) {
  const form = useDraft(
    { name: row.name, numbers: row.given.join(" ") },
    ({ name, numbers }) => {
      const values = typedNumbers(numbers, row.given.length);
      if (values) onPut({ name, values });
    },
    ({ numbers }) =>
      typedNumbers(numbers, row.given.length)
        ? {}
        : { numbers: `${row.given.length} numbers are needed: ${columns.join(", ")}.` },
  );
  const wrong = typedNumbers(form.draft.numbers, row.given.length) === null;
  return (
    <Box
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => e.stopPropagation()}
      sx={{ gridColumn: "3 / -1" }}
    >
      <Form of={form} label={`Change ${row.name}`} row onEscape={onLeave}>
        <InputBase
          autoFocus
          value={form.draft.name}
          inputProps={{ "aria-label": "Name of the row", maxLength: 120 }}
          onChange={(e) => form.put({ name: e.target.value })}
          sx={{ ...FIELD, flex: 1 }}
        />
        <InputBase
          value={form.draft.numbers}
          title={form.problems.numbers}
          inputProps={{
            "aria-label": `Numbers of the row: ${columns.join(", ")}`,
            "aria-invalid": wrong,
          }}
          onChange={(e) => form.put({ numbers: e.target.value })}
          sx={{ ...FIELD, flex: 1.2, ...(wrong && { borderColor: "error.main" }) }}
        />
        <Button type="submit" size="small" sx={{ height: 24 }} disabled={wrong || busy}>
          Put
        </Button>
        <Button size="small" sx={{ height: 24 }} onClick={onLeave}>
          Leave
        </Button>
      </Form>
    </Box>
  );
}
