import { Box, Typography } from "@mui/material";

import type { ProofReadingJudged } from "../api";
import { Explained, number } from "../ui";
import { cells } from "../ui/cells";
import { CRITERIA } from "./words";

const SAID = {
  true: "It passes.",
  false: "It fails.",
  null: "Nothing is asked, so nothing is judged.",
} as const;

/** The verdict in words, what was asked beside what was found, and what the differences look like. */
export function Judged({ reading }: { reading: ProofReadingJudged }) {
  const { passes, criteria, signs, tolerances } = reading.judgement;
  return (
    <Box role="group" aria-label="Verdict">
      <Typography sx={{ fontSize: 18, fontWeight: 700 }} data-testid="verdict">
        {SAID[String(passes ?? null) as keyof typeof SAID]}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        By {tolerances.name}; {reading.way === "bench" ? "printed on" : "from"} {reading.by}
        {reading.way === "bench" &&
          (reading.noise ? ", as the instrument reads" : ", read without noise")}
      </Typography>
      {(signs ?? []).map(({ text }) => (
        <Typography key={text} sx={{ mt: 0.75, fontWeight: 650 }}>
          {text}
        </Typography>
      ))}
      <Box
        component="table"
        aria-label="What is asked"
        sx={{
          ...cells,
          mt: 1,
          fontVariantNumeric: "tabular-nums",
          "& td:nth-of-type(2), & td:nth-of-type(3)": { textAlign: "right" },
        }}
      >
        <thead>
          <tr>
            <th>Asked</th>
            <th>Found</th>
            <th>At most</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {criteria.map((c) => (
            <Box component="tr" key={c.key} sx={{ fontWeight: c.within === false ? 700 : 400 }}>
              <td>
                <Explained text={CRITERIA[c.key][2]}>{CRITERIA[c.key][0]}</Explained>
              </td>
              <td data-explained="">{number(c.value, 2)}</td>
              <td>{c.limit === null ? "–" : number(c.limit, 1)}</td>
              <td>{c.within === null ? "not judged" : c.within ? "kept" : "missed"}</td>
            </Box>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
