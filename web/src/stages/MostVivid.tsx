import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Typography,
} from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type Destination, type Job, type Way } from "../api";
import { keys } from "../queries/keys";
import type { RecipeControl } from "../recipe";
import { Explained } from "../ui";
import { PERCEPTUAL_KINDS } from "../ui/perceptual";
import { INTENT_NAMES } from "../ui/wording";
import { type Look, viewUrl } from "../viewer";
import { SPACES } from "./vividSpaces";

interface Props {
  job: Job;
  destination: Destination;
  control: RecipeControl;
  look: Look;
}

const PARTS: Record<Way["part"], [string, string]> = {
  present: ["As it stands", "The recipe unchanged."],
  steady: ["More vivid, steps kept", "Gradients, detail and greys stay as good as they stand."],
  fuller: [
    "More vivid, a little lost",
    "It gains more colour than it loses in gradients and detail.",
  ],
  utmost: ["As vivid as it gets", "Whatever it costs; look at gradients and skin."],
};

/** Width of all pictures together, and the most height of one, in pixels. */
const ROOM = { width: 1130, height: 330 };

const lower = (words: string) => words.charAt(0).toLowerCase() + words.slice(1);

/** What makes a way, in words. */
export function wayName({ intent, bpc, perceptual, vivid }: Way["changes"]): string {
  const kind =
    intent === "perceptual" && perceptual?.kind
      ? `, ${lower(PERCEPTUAL_KINDS[perceptual.kind].split(":")[0] ?? "")}`
      : "";
  const wide = vivid?.strength
    ? `, source widened ${lower(SPACES[vivid.space ?? "stretch"])} by ${vivid.strength} %`
    : "";
  return `${INTENT_NAMES[intent]}${kind}${bpc || intent === "absolute" ? "" : ", no BPC"}${wide}`;
}

/** How to get the most vivid print: ways tried by the machine, as pictures with their figures. */
export function MostVivid({ job, destination, control, look }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button sx={{ mt: 0.75 }} onClick={() => setOpen(true)}>
        Most vivid print…
      </Button>
      {open && (
        <Dialog open onClose={() => setOpen(false)} maxWidth="lg" fullWidth aria-labelledby="vivid">
          <DialogTitle id="vivid" sx={{ fontSize: 15, fontWeight: 700 }}>
            The most vivid print on {destination.condition.name}
          </DialogTitle>
          <DialogContent>
            <Ways {...{ job, destination, control, look }} onTaken={() => setOpen(false)} />
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setOpen(false)}>Leave it as it stands</Button>
          </DialogActions>
        </Dialog>
      )}
    </>
  );
}

function Ways({ job, destination, control, look, onTaken }: Props & { onTaken: () => void }) {
  const path = { id: destination.id };
  const query = useQuery({
    queryKey: [...keys.mostVivid, destination.id, recipeKey(destination)],
    queryFn: () => ask(api.GET("/api/destinations/{id}/most-vivid", { params: { path } })),
    staleTime: 300_000,
  });
  if (query.isError) return <Typography role="alert">{query.error.message}</Typography>;
  if (!query.data)
    return <Typography>Trying intents and widened sources on this picture…</Typography>;
  const ways = query.data;
  const [present] = ways;
  if (!present)
    return (
      <Typography>
        No colour of this picture is vivid, or its numbers are kept as they are: there is nothing to
        try.
      </Typography>
    );
  const { width, height } = job.artwork.facts;
  const wide = Math.floor(ROOM.width / Math.max(2, ways.length)) - 16;
  const share = Math.min(wide / width, ROOM.height / height);
  return (
    <>
      {ways.length === 1 && (
        <Typography sx={{ mb: 1 }}>
          None of some twenty ways prints it more vividly than it stands: the press is at its end.
        </Typography>
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: `repeat(auto-fit, minmax(${Math.min(wide, 260)}px, 1fr))`,
          gap: 2,
        }}
      >
        {ways.map((way) => (
          <Box component="section" key={way.part} aria-label={PARTS[way.part][0]}>
            <Box
              sx={{
                bgcolor: "#777777",
                height: Math.round(height * share) + 24,
                display: "grid",
                placeItems: "center",
                "& img": { maxWidth: "100%" },
              }}
            >
              <img
                src={viewUrl({
                  destination: destination.id,
                  pane: "proof",
                  box: { x: 0, y: 0, w: width, h: height },
                  columns: Math.max(1, Math.round(width * share)),
                  rows: Math.max(1, Math.round(height * share)),
                  colours: JSON.stringify({ ...JSON.parse(control.colours), ...way.changes }),
                  look: { ...look, veilOn: false, map: "", plates: null },
                })}
                alt={`The print: ${wayName(way.changes)}`}
              />
            </Box>
            <Typography sx={{ fontWeight: 700, mt: 0.75 }}>{PARTS[way.part][0]}</Typography>
            <Typography variant="body2" sx={{ minHeight: "2.9em" }}>
              {PARTS[way.part][1]}
            </Typography>
            <Typography variant="body2" sx={{ fontWeight: 650, minHeight: "2.9em" }}>
              {wayName(way.changes)}
            </Typography>
            <Box
              component="dl"
              sx={{ m: 0, fontSize: 12, "& div": { display: "flex", maxWidth: 300 } }}
            >
              {FIGURES.map(([label, key, unit, digits]) => (
                <div key={key}>
                  <Box component="dt" sx={{ flex: 1 }}>
                    <Explained of={key}>{label}</Explained>
                  </Box>
                  <Box component="dd" sx={{ m: 0, fontWeight: 650 }}>
                    {against(way.fit[key], present.fit[key], digits, unit, way === present)}
                  </Box>
                </div>
              ))}
            </Box>
            {way !== present && (
              <Button
                sx={{ mt: 1 }}
                onClick={() => {
                  control.commit(way.changes);
                  onTaken();
                }}
              >
                Take it
              </Button>
            )}
          </Box>
        ))}
      </Box>
      <Typography variant="body2" sx={{ mt: 1.5 }}>
        Figures of the picture reduced to 140 pixels, against the artwork without widening. Another
        condition may print it more vividly still: see “Best for every condition of the job”.
      </Typography>
    </>
  );
}

const FIGURES = [
  ["Vividness kept", "vividness", " %", 0],
  ["Gradients flattened", "banding", " %", 1],
  ["Detail kept", "detail", " %", 0],
  ["Mean ΔE00", "de00_mean", "", 1],
] as const;

const recipeKey = ({ recipe }: Destination) => JSON.stringify(recipe);

/** A figure, and how far it is from the present one. */
function against(
  value: number | null | undefined,
  from: number | null | undefined,
  digits: number,
  unit: string,
  itself: boolean,
): string {
  if (value == null) return "–";
  const plain = value.toFixed(digits) + unit;
  if (itself || from == null) return plain;
  const apart = value - from;
  return `${plain} (${apart < 0 ? "−" : "+"}${Math.abs(apart).toFixed(digits)})`;
}
