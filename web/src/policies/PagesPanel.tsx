import { Box, Button, ButtonBase, LinearProgress, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { platesQuery } from "../queries/policies";
import { Notice, rove } from "../ui";
import { PagePicture } from "./PagePicture";
import { PageProof } from "./PageProof";

interface Props {
  run: number;
  pages: number;
}

const VIEWS = { both: "Meant and printed", plates: "Plates", tac: "Total ink" } as const;
type View = keyof typeof VIEWS;

/** A page large: as meant beside as printed, its plates alone or together, its total ink. */
export function PagesPanel({ run, pages }: Props) {
  const [page, setPage] = useState(1);
  const [view, setView] = useState<View>("both");
  const [chosen, setChosen] = useState<number[] | null>(null);
  const plates = useQuery({ ...platesQuery(run, page), enabled: view !== "both" });
  const base = `/api/policy-runs/${run}/pages/${page}`;
  const names = plates.data?.names ?? [];
  const shown = chosen ?? names.map((_, i) => i);
  const step = (by: number) => setPage(Math.min(pages, Math.max(1, page + by)));
  const figures = plates.data;
  return (
    <Box role="region" aria-label="Pages" sx={{ mt: 1.5 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, mb: 1 }}>
        <Button disabled={page === 1} onClick={() => step(-1)} aria-label="Former page">
          ←
        </Button>
        <Typography data-explained="object_page" sx={{ fontWeight: 650 }}>
          Page {page} of {pages}
        </Typography>
        <Button disabled={page === pages} onClick={() => step(1)} aria-label="Next page">
          →
        </Button>
        <Box
          role="radiogroup"
          onKeyDown={rove}
          aria-label="View of the page"
          sx={{ display: "flex", border: 1, borderColor: "text.primary", ml: 1 }}
        >
          {(Object.entries(VIEWS) as [View, string][]).map(([key, name]) => (
            <ButtonBase
              key={key}
              role="radio"
              aria-checked={view === key}
              tabIndex={view === key ? 0 : -1}
              onClick={() => setView(key)}
              sx={{
                px: 1.25,
                height: 28,
                fontSize: 12.5,
                fontWeight: 600,
                ...(view === key && { bgcolor: "text.primary", color: "background.paper" }),
              }}
            >
              {name}
            </ButtonBase>
          ))}
        </Box>
        {view === "tac" && figures && (
          <Typography data-testid="page-tac" data-explained="page_tac">
            highest <b>{figures.highest.toFixed(0)} %</b>
            {figures.limit
              ? ` of ${figures.limit.toFixed(0)} %, ${(figures.over * 100).toFixed(1)} % of the page over it`
              : ""}
            , mean {figures.mean.toFixed(0)} %
          </Typography>
        )}
        <PageProof key={`${run} ${page}`} run={run} page={page} />
      </Box>
      {plates.isLoading && <LinearProgress aria-label="Separating the page" />}
      {plates.error && view !== "both" && <Notice problem={plates.error} />}
      {view === "both" && (
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "3px" }}>
          <PagePicture src={`${base}.png?side=meant&edge=1100`} label="As its colours are meant" />
          <PagePicture src={`${base}.png?side=printed&edge=1100`} label="As it prints" />
        </Box>
      )}
      {view === "plates" && figures && (
        <Box sx={{ display: "grid", gridTemplateColumns: "220px minmax(0, 1fr)", gap: 2 }}>
          <Box component="ul" aria-label="Plates" sx={{ listStyle: "none", p: 0, m: 0 }}>
            {names.map((name, i) => (
              <Box
                component="li"
                key={name}
                sx={{ display: "flex", borderTop: 1, borderColor: "divider" }}
              >
                <ButtonBase
                  aria-pressed={shown.includes(i)}
                  onClick={() =>
                    setChosen(
                      shown.includes(i) && shown.length > 1
                        ? shown.filter((n) => n !== i)
                        : [...new Set([...shown, i])].sort(),
                    )
                  }
                  sx={{
                    flex: 1,
                    justifyContent: "flex-start",
                    px: 1,
                    minHeight: 30,
                    gap: 1,
                    fontWeight: shown.includes(i) ? 700 : 450,
                  }}
                >
                  <Box
                    aria-hidden
                    component="span"
                    sx={{
                      width: 10,
                      height: 10,
                      border: "2px solid currentColor",
                      bgcolor: shown.includes(i) ? "currentColor" : "transparent",
                    }}
                  />
                  {name}
                </ButtonBase>
                <Typography data-explained="plate_coverage" sx={{ alignSelf: "center" }}>
                  {((figures.coverage[name] ?? 0) * 100).toFixed(1)} %
                </Typography>
                <Button
                  size="small"
                  variant="text"
                  aria-label={`${name} alone`}
                  onClick={() => setChosen([i])}
                >
                  alone
                </Button>
              </Box>
            ))}
            <Box component="li" sx={{ borderTop: 1, borderColor: "divider", pt: 0.75 }}>
              <Button onClick={() => setChosen(null)}>All plates</Button>
              {figures.notes.map(({ text }) => (
                <Typography key={text} variant="body2" sx={{ mt: 1 }}>
                  {text}
                </Typography>
              ))}
              <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
                Share of the page that each ink covers. One plate alone is shown in grey, several as
                a sketch of their inks; overprint is not simulated.
              </Typography>
            </Box>
          </Box>
          <PagePicture
            src={`${base}/plates.png?plates=${shown.join(",")}`}
            label={shown.length === 1 ? `${names[shown[0] ?? 0]} plate` : "Plates together"}
          />
        </Box>
      )}
      {view === "tac" && figures && (
        <PagePicture
          src={`${base}/tac.png`}
          label={
            figures.limit
              ? `Total ink, darker is more; orange is over ${figures.limit.toFixed(0)} %`
              : "Total ink, darker is more"
          }
        />
      )}
    </Box>
  );
}
