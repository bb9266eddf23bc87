import { Box, Button, Typography } from "@mui/material";
import { Link } from "react-router";

import type { Answer } from "../api";
import { labColour } from "../plots/labColour";
import { labText, number } from "../ui";
import { cells } from "../ui/cells";
import { AnswerPlot } from "./AnswerPlot";
import { type Known, placeOf } from "./places";

interface Props {
  answer: Answer;
  parts: Record<string, string>;
  known: Known;
  pages: string;
}

/** An answer: the sentence, what bears on it, its figure, colours, what was done, where to look further. */
export function AnswerView({ answer, parts, known, pages }: Props) {
  const { figures, plot, colours } = answer;
  return (
    <Box role="region" aria-label="Answer" sx={{ maxWidth: 980 }}>
      <Box sx={{ display: "flex", gap: 2, alignItems: "flex-start" }}>
        <Typography sx={{ fontSize: 19, fontWeight: 700, flex: 1 }} data-testid="said">
          {answer.said}
        </Typography>
        <Button component="a" href={pages} download>
          As PDF
        </Button>
      </Box>
      {answer.more.map((line) => (
        <Typography key={line} sx={{ mt: 0.75 }}>
          {line}
        </Typography>
      ))}
      <Box
        sx={{
          mt: 2,
          display: "grid",
          gap: 3,
          gridTemplateColumns: "minmax(0, 560px) minmax(220px, 1fr)",
          "@media (max-width: 1150px)": { gridTemplateColumns: "1fr" },
        }}
      >
        {plot && <AnswerPlot plot={plot} />}
        {figures && (
          <Box component="table" aria-label="Figures" sx={{ ...cells, alignSelf: "start" }}>
            <thead>
              <tr>
                <th />
                {figures.columns.map((c) => (
                  <th key={c}>{c}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {figures.rows.map((row) => (
                <tr key={row.label}>
                  <td>{row.label}</td>
                  {row.values.map((v, i) => (
                    <td key={i} data-explained="">
                      {v === null ? "" : `${number(v, row.digits ?? 1)} ${row.unit ?? ""}`}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </Box>
        )}
      </Box>
      {colours && (
        <Box sx={{ mt: 2.5 }}>
          <Typography variant="h2" sx={{ mb: 1 }}>
            Furthest apart; above: {colours.first}, below: {colours.second}
          </Typography>
          <Box
            component="ul"
            aria-label="Colours"
            sx={{ display: "flex", flexWrap: "wrap", gap: 1.25, listStyle: "none", p: 0, m: 0 }}
          >
            {colours.pairs.map((p) => (
              <Box
                component="li"
                key={p.name}
                title={`${labText(p.first)} and ${labText(p.second)}`}
                sx={{ width: 64, fontSize: 11.5, lineHeight: "15px" }}
              >
                <Box sx={{ height: 30, bgcolor: labColour(p.first) }} />
                <Box sx={{ height: 30, bgcolor: labColour(p.second) }} />
                <Box sx={{ whiteSpace: "nowrap", overflow: "hidden" }}>{p.name}</Box>
                <Box data-explained="">ΔE00 {number(p.de00)}</Box>
              </Box>
            ))}
          </Box>
        </Box>
      )}
      <Box
        sx={{
          mt: 2.5,
          pt: 1.5,
          borderTop: 1,
          borderColor: "divider",
          display: "grid",
          gap: 3,
          gridTemplateColumns: "minmax(0, 1fr) 260px",
        }}
      >
        <Box>
          <Typography variant="h2">What was done</Typography>
          <Box component="ol" aria-label="What was done" sx={{ pl: 2.5, m: 0, mt: 0.5 }}>
            {answer.done.map((step) => (
              <Box component="li" key={step} sx={{ mt: 0.5 }}>
                {step}
              </Box>
            ))}
          </Box>
        </Box>
        <Box component="nav" aria-label="Look further">
          <Typography variant="h2">Look further</Typography>
          {answer.views.map((view) => (
            <Box key={view.label} sx={{ mt: 0.75 }}>
              <Link to={placeOf(view, parts, known)} style={{ color: "inherit" }}>
                {view.label}
              </Link>
            </Box>
          ))}
        </Box>
      </Box>
    </Box>
  );
}
