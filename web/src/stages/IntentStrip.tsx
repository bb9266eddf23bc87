import { Box, ButtonBase, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, ask, type Destination, type Intent, type Job } from "../api";
import { keys } from "../queries/keys";
import type { RecipeControl } from "../recipe";
import { Explained, rove } from "../ui";
import { INTENT_NAMES } from "../ui/wording";
import { type Look, viewUrl } from "../viewer";

interface Props {
  job: Job;
  destination: Destination;
  control: RecipeControl;
  look: Look;
}

const ROWS = [
  ["mean ΔE", "de00_mean", "", 1],
  ["vividness", "vividness", " %", 0],
  ["detail", "detail", " %", 0],
] as const;
const shown = (value: number | null, digits: number, unit: string) =>
  value === null ? "–" : value.toFixed(digits) + unit;
const INTENTS = Object.keys(INTENT_NAMES) as Intent[];

/** Each intent as a small rendering with its figures; choosing is clicking. */
export function IntentStrip({ job, destination, control, look }: Props) {
  const { width, height } = job.artwork.facts;
  const stamp = JSON.stringify(destination.recipe);
  const share = Math.min(72 / width, 54 / height);
  const small = {
    columns: Math.max(1, Math.round(width * share)),
    rows: Math.max(1, Math.round(height * share)),
  };
  const figures = useQuery({
    queryKey: [...keys.intents, destination.id, stamp],
    queryFn: () =>
      ask(api.GET("/api/destinations/{id}/intents", { params: { path: { id: destination.id } } })),
    placeholderData: keepPreviousData,
  });
  if (control.recipe.link !== null)
    return (
      <Box sx={{ flex: "none", borderTop: 1, borderColor: "divider", px: 1.5, py: 1 }}>
        <Typography>
          A device link converts: rendering intent, black point compensation and ink rules are in it
          already. It is chosen under Inks.
        </Typography>
      </Box>
    );
  return (
    <Box
      onKeyDown={rove}
      role="radiogroup"
      aria-label="Rendering intent"
      sx={{
        flex: "none",
        height: 84,
        display: "grid",
        gridTemplateColumns: "repeat(4, minmax(0, 1fr))",
        borderTop: 1,
        borderColor: "divider",
        bgcolor: "background.default",
      }}
    >
      {INTENTS.map((intent) => {
        const chosen = control.recipe.intent === intent;
        const f = figures.data?.find((x) => x.intent === intent);
        const src = viewUrl({
          destination: destination.id,
          pane: "proof",
          box: { x: 0, y: 0, w: width, h: height },
          ...small,
          colours: JSON.stringify({ ...JSON.parse(control.colours), intent }),
          look: { ...look, veilOn: false, map: "", plates: null },
        });
        return (
          <ButtonBase
            key={intent}
            role="radio"
            aria-checked={chosen}
            tabIndex={chosen ? 0 : -1}
            data-intent={intent}
            onClick={() => control.commit({ intent })}
            sx={{
              display: "block",
              textAlign: "left",
              px: 1,
              py: 0.5,
              minWidth: 0,
              "&.Mui-focusVisible, &:focus-visible": { outlineOffset: "-3px" },
              borderLeft: 1,
              borderColor: "divider",
              "&:first-of-type": { borderLeft: 0 },
              boxShadow: chosen ? (t) => `inset 0 3px 0 ${t.palette.text.primary}` : "none",
              bgcolor: chosen ? "background.paper" : "transparent",
            }}
          >
            <Typography noWrap sx={{ fontWeight: 700, lineHeight: "18px" }}>
              {INTENT_NAMES[intent]}
            </Typography>
            <Box sx={{ display: "flex", gap: 1 }}>
              <Box
                sx={{
                  width: 72,
                  height: 54,
                  flex: "none",
                  bgcolor: "#777777",
                  display: "grid",
                  placeItems: "center",
                }}
              >
                <img src={src} alt="" width={small.columns} height={small.rows} />
              </Box>
              <Box
                aria-busy={figures.isPlaceholderData}
                sx={{
                  flex: 1,
                  minWidth: 0,
                  fontSize: 11,
                  lineHeight: "13.5px",
                  "& > [data-explained]": {
                    display: "flex",
                    justifyContent: "space-between",
                    gap: 0.5,
                  },
                  "& span": { whiteSpace: "nowrap" },
                  opacity: figures.isPlaceholderData ? 0.5 : 1,
                }}
              >
                <Explained of="out_of_gamut" focus={false} below>
                  <span>out</span>
                  <Box component="span" sx={{ fontWeight: 650, textAlign: "right" }}>
                    {f
                      ? `${f.too_vivid.toFixed(0)} + ${f.too_dark.toFixed(0)} + ${f.too_light.toFixed(0)} %`
                      : "…"}
                  </Box>
                </Explained>
                {ROWS.map(([label, key, unit, digits]) => (
                  <Explained key={key} of={key} focus={false} below>
                    <span>{label}</span>
                    <Box component="span" sx={{ fontWeight: 650, textAlign: "right" }}>
                      {f ? shown(f[key], digits, unit) : "…"}
                    </Box>
                  </Explained>
                ))}
              </Box>
            </Box>
          </ButtonBase>
        );
      })}
    </Box>
  );
}
