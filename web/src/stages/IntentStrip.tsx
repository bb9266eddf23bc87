import { Box, ButtonBase, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, ask, type Destination, type Intent, type Job } from "../api";
import type { RecipeControl } from "../jobs/useRecipe";
import { type Look, viewUrl } from "../viewer";
import { INTENT_NAMES } from "./wording";

interface Props {
  job: Job;
  destination: Destination;
  control: RecipeControl;
  look: Look;
}

const ROWS = [
  ["out", "out_of_gamut", " %", 1],
  ["mean ΔE", "de00_mean", "", 1],
  ["95 % ΔE", "de00_p95", "", 1],
  ["detail", "detail", " %", 0],
] as const;

/** Each intent as a small rendering with its figures; choosing is clicking. */
export function IntentStrip({ job, destination, control, look }: Props) {
  const { width, height } = job.artwork.facts;
  const stamp = JSON.stringify(destination.recipe);
  const share = Math.min(96 / width, 70 / height);
  const small = { columns: Math.max(1, Math.round(width * share)), rows: Math.max(1, Math.round(height * share)) };
  const figures = useQuery({
    queryKey: ["intents", destination.id, stamp],
    queryFn: () => ask(api.GET("/api/destinations/{id}/intents", { params: { path: { id: destination.id } } })),
    placeholderData: keepPreviousData,
  });
  return (
    <Box role="radiogroup" aria-label="Rendering intent" sx={{ flex: "none", height: 116, display: "grid", gridTemplateColumns: "repeat(4, 1fr)", borderTop: 1, borderColor: "divider", bgcolor: "background.default" }}>
      {(Object.keys(INTENT_NAMES) as Intent[]).map((intent) => {
        const chosen = control.recipe.intent === intent;
        const f = figures.data?.find((x) => x.intent === intent);
        const src = viewUrl({
          destination: destination.id, pane: "proof", box: { x: 0, y: 0, w: width, h: height }, ...small,
          colours: JSON.stringify({ ...JSON.parse(control.colours), intent }), look: { ...look, veilOn: false, map: "", plates: null },
        });
        return (
          <ButtonBase
            key={intent} role="radio" aria-checked={chosen} onClick={() => control.commit({ intent })}
            sx={{ display: "block", textAlign: "left", px: 1.5, py: 1, borderLeft: 1, borderColor: "divider", "&:first-of-type": { borderLeft: 0 }, boxShadow: chosen ? (t) => `inset 0 3px 0 ${t.palette.text.primary}` : "none", bgcolor: chosen ? "background.paper" : "transparent" }}
          >
            <Typography noWrap sx={{ fontWeight: 700, mb: 0.5 }}>{INTENT_NAMES[intent]}</Typography>
            <Box sx={{ display: "flex", gap: 1.25 }}>
              <Box sx={{ width: 96, height: 70, flex: "none", bgcolor: "#777777", display: "grid", placeItems: "center" }}>
                <img src={src} alt="" width={small.columns} height={small.rows} />
              </Box>
              <Box sx={{ flex: 1, display: "grid", gridTemplateColumns: "1fr auto", alignContent: "start", fontSize: 12, lineHeight: "17px", opacity: figures.isPlaceholderData ? 0.5 : 1 }}>
                {ROWS.map(([label, key, unit, digits]) => (
                  <Box key={key} sx={{ display: "contents" }}>
                    <span>{label}</span>
                    <Box component="span" sx={{ fontWeight: 650, textAlign: "right" }}>{f ? f[key].toFixed(digits) + unit : "…"}</Box>
                  </Box>
                ))}
              </Box>
            </Box>
          </ButtonBase>
        );
      })}
    </Box>
  );
}
