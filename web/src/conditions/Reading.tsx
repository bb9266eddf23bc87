import { Box, Typography } from "@mui/material";

import type { Intent, Proposal } from "../api";
import { Swatch } from "../plots/Swatch";
import { Explained } from "../ui";
import { labText, number } from "../ui/numbers";
import { INTENT_NAMES } from "../ui/wording";

const table = {
  borderCollapse: "collapse",
  fontSize: 12.5,
  width: "100%",
  "& th": {
    textAlign: "left",
    fontWeight: 600,
    color: "text.secondary",
    pr: 1.5,
    pb: 0.25,
    verticalAlign: "bottom",
  },
  "& td": { pr: 1.5, py: 0.25, borderTop: 1, borderColor: "divider", whiteSpace: "nowrap" },
} as const;

/** What was read of a profile's own tables: per intent, the solids, tints that vanish, what is wrong with it. */
export function Reading({
  proposal,
}: {
  proposal: Pick<Proposal, "reach" | "solids" | "tones" | "problems">;
}) {
  const inked = proposal.tones.length > 0;
  const vanishing = proposal.tones.filter((t) => t.vanishes != null);
  const longNames = Object.keys(proposal.solids).some((name) => name.length > 6);
  return (
    <Box sx={{ minWidth: 0 }}>
      <Box component="table" sx={table} aria-label="What each intent reaches">
        <thead>
          <tr>
            <th>Intent</th>
            {inked && (
              <th>
                <Explained of="tac_reached">Total</Explained>
              </th>
            )}
            {inked && (
              <th>
                <Explained of="black_start">Black from</Explained>
              </th>
            )}
            {inked && (
              <th>
                <Explained of="black_most">Most black</Explained>
              </th>
            )}
            <th>
              <Explained of="darkest_neutral">Darkest grey</Explained>
            </th>
          </tr>
        </thead>
        <tbody>
          {proposal.reach.map((r) => (
            <tr key={r.intent}>
              <td>{INTENT_NAMES[r.intent as Intent]}</td>
              {inked && <td data-explained="tac_reached">{number(r.tac)} %</td>}
              {inked && (
                <td data-explained="black_start">
                  {r.black_start == null ? "never" : `L* ${number(r.black_start)}`}
                </td>
              )}
              {inked && (
                <td data-explained="black_most">
                  {r.black_most == null ? "no black" : `${number(r.black_most)} %`}
                </td>
              )}
              <td data-explained="darkest_neutral">
                <Swatch lab={r.darkest} />
                {labText(r.darkest)}
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Typography variant="h3" sx={{ mt: 1.5, mb: 0.5 }}>
        <Explained of="solids">
          {inked ? "Paper, solids and overprints" : "Ends of its colours"}
        </Explained>
      </Typography>
      <Box
        sx={{
          display: "grid",
          // Names of inks beside the four are longer than theirs.
          gridTemplateColumns: `repeat(auto-fill, minmax(${longNames ? 210 : 150}px, 1fr))`,
          columnGap: 1.5,
          rowGap: 0.25,
          fontSize: 12.5,
        }}
      >
        {Object.entries(proposal.solids).map(([name, lab]) => (
          <Box key={name} data-explained="solids" sx={{ whiteSpace: "nowrap" }}>
            <Swatch lab={lab} />
            <b>{name}</b> {labText(lab)}
          </Box>
        ))}
      </Box>
      {vanishing.length > 0 && (
        <Typography sx={{ mt: 1 }}>
          <Explained of="vanishing_tint">Tints that vanish</Explained>:{" "}
          {vanishing.map((t) => `${t.name} up to ${number(t.vanishes ?? 0, 2)} %`).join(", ")}.
        </Typography>
      )}
      {proposal.problems.length > 0 && (
        <Box
          role="group"
          aria-label="Problems of the profile"
          sx={{ mt: 1.5, border: 2, borderColor: "text.primary", p: 1 }}
        >
          <Typography sx={{ fontWeight: 700 }}>
            {proposal.problems.some((p) => p.severity === "error")
              ? "The profile is not whole"
              : "Against the standard, but usable"}
          </Typography>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {proposal.problems.map((p) => (
              <Typography component="li" key={p.tag + p.message.text} variant="body2">
                {p.message.text}
              </Typography>
            ))}
          </Box>
        </Box>
      )}
    </Box>
  );
}
