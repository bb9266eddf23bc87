import { Box, Button, Typography } from "@mui/material";
import { keepPreviousData, queryOptions, useQueries, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { api, ask, type Destination, type Fit, type Job } from "../api";
import { keys } from "../queries/keys";
import { coloursOf, type RecipeControl } from "../recipe";
import { Explained } from "../ui";
import type { Look } from "../viewer";
import { fitName, fitReasons } from "./fit";
import { MostVivid } from "./MostVivid";

const fitQuery = (destination: Destination) =>
  queryOptions({
    // What is chosen by the advice does not change it; all else of the recipe does.
    queryKey: [
      ...keys.fit,
      destination.id,
      destination.recipe.destination,
      coloursOf({ ...destination.recipe, intent: "perceptual", bpc: true }),
    ],
    queryFn: () =>
      ask(api.GET("/api/destinations/{id}/fit", { params: { path: { id: destination.id } } })),
    placeholderData: keepPreviousData,
    staleTime: 300_000,
  });

const COLUMNS = [
  ["ΔE", "de00_mean", 1],
  ["95 %", "de00_p95", 1],
  ["detail", "detail", 0],
  ["flat", "banding", 1],
  ["greys", "drift", 1],
  ["vivid", "vividness", 0],
] as const;

function FitTable({
  rows,
  mark,
}: {
  rows: { name: string; fit: Fit }[];
  mark: (fit: Fit) => boolean;
}) {
  return (
    <Box
      component="table"
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        fontSize: 11.5,
        lineHeight: "16px",
        mt: 0.5,
        "& td, & th": { p: 0, textAlign: "right", fontWeight: "inherit" },
        "& tr > :first-of-type": { textAlign: "left" },
      }}
    >
      <thead>
        <tr>
          <th />
          {COLUMNS.map(([label, key]) => (
            <th key={label}>
              <Explained of={key}>{label}</Explained>
            </th>
          ))}
        </tr>
      </thead>
      {rows.map(({ name, fit }) => (
        <Box
          component="tbody"
          key={name}
          sx={{ fontWeight: mark(fit) ? 700 : 400, borderTop: 1, borderColor: "divider" }}
        >
          <tr>
            <td colSpan={COLUMNS.length + 1}>{name}</td>
          </tr>
          <tr>
            <td />
            {COLUMNS.map(([label, key, digits]) => (
              <td key={label} data-explained={key}>
                {fit[key]?.toFixed(digits) ?? "–"}
              </td>
            ))}
          </tr>
        </Box>
      ))}
    </Box>
  );
}

/** Which intent suits this picture by measured figures; recommended, never applied unasked. */
export function FitAdvice({
  job,
  destination,
  control,
  look,
}: {
  job: Job;
  destination: Destination;
  control: RecipeControl;
  look: Look;
}) {
  const query = useQuery(fitQuery(destination));
  const all = useQueries({ queries: job.destinations.map(fitQuery) });
  const fits = query.data;
  const advised = fits?.find((f) => f.advised);
  if (!fits || !advised)
    return <Typography color="text.secondary">Measuring which intent fits…</Typography>;
  const { intent, bpc } = control.recipe;
  const used = fits.find((f) => f.intent === intent && (f.bpc === bpc || intent === "absolute"));
  const conditions = job.destinations.flatMap((d, i) => {
    const best = all[i]?.data?.find((f) => f.advised);
    return best ? [{ name: `${d.condition.name}: ${fitName(best)}`, fit: best }] : [];
  });
  return (
    <Box
      component="section"
      aria-label="Fit advice"
      sx={{ borderTop: 1, borderColor: "divider", pt: 1 }}
    >
      <Typography variant="h2">
        {used === advised ? "The present choice fits best" : `Advised: ${fitName(advised)}`}
      </Typography>
      <Typography variant="body2" data-explained="de00_mean" sx={{ mt: 0.25 }}>
        {fitReasons(advised, used)}
      </Typography>
      {used !== advised && (
        <Button
          sx={{ mt: 0.75 }}
          onClick={() => control.commit({ intent: advised.intent, bpc: advised.bpc })}
        >
          Use it
        </Button>
      )}
      <Box>
        <MostVivid {...{ job, destination, control, look }} />
      </Box>
      <Box component="details" sx={{ mt: 1, "& summary": { cursor: "pointer" } }}>
        <summary>All intents in figures</summary>
        <FitTable rows={fits.map((fit) => ({ name: fitName(fit), fit }))} mark={(f) => f.advised} />
      </Box>
      <Box sx={{ mt: 0.75 }}>
        <Link
          to={`/questions?ask=suit&picture=${job.id}&first=${destination.condition.profile.id}`}
          style={{ color: "inherit" }}
        >
          Which of two profiles suits this picture?
        </Link>
      </Box>
      {conditions.length > 1 && (
        <Box component="details" sx={{ mt: 0.5, "& summary": { cursor: "pointer" } }}>
          <summary>Best for every condition of the job</summary>
          <FitTable rows={conditions} mark={(f) => f === advised} />
        </Box>
      )}
    </Box>
  );
}
