import { Box, Button, Typography } from "@mui/material";

import type { ProblemError } from "../api";

interface Props {
  problem: ProblemError;
  onTheirs: () => void;
  onMine: () => void;
}

const shown = (value: unknown): string => {
  if (value === null || value === undefined) return "none";
  if (typeof value === "object")
    return Array.isArray(value)
      ? `${value.length} ${value.length === 1 ? "entry" : "entries"}`
      : "changed";
  return String(value);
};
const named = (field: string) =>
  field
    .replace(/[._]/g, " ")
    .replace(/\btac\b/i, "TAC")
    .replace(/\bbpc\b/i, "BPC");

/** Two people changed the same field: both values, and which one is to stay. */
export function ClashNotice({ problem, onTheirs, onMine }: Props) {
  return (
    <Box
      role="alert"
      aria-label="Changed by two"
      sx={{ border: 2, borderColor: "text.primary", bgcolor: "background.paper", p: 1.5, m: 1 }}
    >
      <Typography sx={{ fontWeight: 700 }}>Somebody else changed the same a moment ago.</Typography>
      <Box
        component="table"
        sx={{
          borderCollapse: "collapse",
          mt: 0.5,
          fontSize: 13,
          "& td, & th": { pr: 3, textAlign: "left" },
          "& th": { fontWeight: 600, color: "text.secondary" },
        }}
      >
        <thead>
          <tr>
            <th />
            <th>theirs, now</th>
            <th>yours</th>
          </tr>
        </thead>
        <tbody>
          {problem.problem.fields.map((f) => (
            <tr key={f.field}>
              <td>
                <b>{named(f.field)}</b>
              </td>
              <td>{shown(f.theirs)}</td>
              <td>{shown(f.yours)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Button variant="contained" onClick={onTheirs}>
          Keep theirs
        </Button>
        <Button onClick={onMine}>Put mine in</Button>
      </Box>
    </Box>
  );
}
