import { Box, Button, InputBase } from "@mui/material";
import { type FormEvent, useState } from "react";

import type { FollowedRow } from "../api";

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
  const [name, setName] = useState(row.name);
  const [text, setText] = useState(row.given.join(" "));
  const values = typedNumbers(text, row.given.length);
  const put = (event: FormEvent) => {
    event.preventDefault();
    if (values) onPut({ name, values });
  };
  return (
    <Box
      component="form"
      aria-label={`Change ${row.name}`}
      onSubmit={put}
      onClick={(e) => e.stopPropagation()}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Escape") onLeave();
      }}
      sx={{ gridColumn: "3 / -1", display: "flex", gap: 0.75, alignItems: "center" }}
    >
      <InputBase
        autoFocus
        value={name}
        inputProps={{ "aria-label": "Name of the row", maxLength: 120 }}
        onChange={(e) => setName(e.target.value)}
        sx={{ ...FIELD, flex: 1 }}
      />
      <InputBase
        value={text}
        inputProps={{
          "aria-label": `Numbers of the row: ${columns.join(", ")}`,
          "aria-invalid": values === null,
        }}
        onChange={(e) => setText(e.target.value)}
        sx={{ ...FIELD, flex: 1.2, ...(values === null && { borderColor: "error.main" }) }}
      />
      <Button type="submit" size="small" sx={{ height: 24 }} disabled={values === null || busy}>
        Put
      </Button>
      <Button size="small" sx={{ height: 24 }} onClick={onLeave}>
        Leave
      </Button>
    </Box>
  );
}
