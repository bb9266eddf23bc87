import { Box, Typography } from "@mui/material";

import type { TreatedDocument as Treated } from "../api";
import { after, before, outcomeName } from "./words";

type Example = Treated["examples"][number];

const SHOWN = 12;

const made = (e: Example, side: "before" | "after") => {
  const m = e[side];
  if (m.action === "stop") return "stops";
  const fine = m.new_ppi ? `, ${m.new_ppi.toFixed(0)} ppi` : "";
  return `${after({ after: m.after, action: m.action, outcome: m.outcome, family: e.family, spot: e.spot })} ${outcomeName(m.outcome, "")}${fine}`.trim();
};

/** What two policies make of a document: how many objects differ, and the first of them. */
export function TreatedRow({ treated }: { treated: Treated }) {
  const { changed, objects, stops, problem } = treated;
  const [was = 0, is = 0] = stops;
  const stopped = was !== is ? ` It stops at ${is} objects instead of ${was}.` : "";
  return (
    <Box component="li" sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}>
      <Typography data-explained="differing">
        <b>{treated.file_name}</b>:{" "}
        {problem ||
          (changed === 0
            ? `all ${objects} objects come out alike`
            : `${changed} of ${objects} objects come out differently.${stopped}`)}
      </Typography>
      {treated.examples.length > 0 && (
        <Box
          component="table"
          aria-label={`Objects of ${treated.file_name}`}
          sx={{
            borderCollapse: "collapse",
            fontSize: 12,
            mt: 0.5,
            "& td": { pr: 2, py: 0.15, whiteSpace: "nowrap" },
          }}
        >
          <tbody>
            {treated.examples.slice(0, SHOWN).map((e, i) => (
              <tr key={i}>
                <td data-explained="object_page">page {e.page}</td>
                <td data-explained="object_values">
                  {e.spot.length ? `spot ${e.spot.join(", ")}` : `${e.family} ${e.kind}`}{" "}
                  {before(e)}
                </td>
                <td data-explained="object_values">{made(e, "before")}</td>
                <td data-explained="object_values">→ {made(e, "after")}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      )}
      {treated.examples.length > SHOWN && (
        <Typography variant="body2" color="text.secondary">
          and {treated.examples.length - SHOWN} more kinds
        </Typography>
      )}
    </Box>
  );
}
