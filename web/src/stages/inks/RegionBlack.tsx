import { Box, Button, Typography } from "@mui/material";

import type { Correction, InkFigures } from "../../api";
import { Explained } from "../../ui";
import { BlackControls } from "../../ui/BlackControls";
import { Section } from "../../ui/controls";
import { useTool } from "../../viewer";
import { cornersOf, MOST_REGIONS, PLAIN } from "../corrections/words";
import type { StageProps } from "../StageRail";
import { FIRST_BLACK } from "./rules";

/** Black removed or made otherwise in a region while the colour is kept. */
export function RegionBlack({
  job,
  control,
  chosen,
  onChosen,
  figures,
}: StageProps & { figures: InkFigures | undefined }) {
  const { start } = useTool();
  const { corrections } = control.recipe;
  const { width, height } = job.artwork.facts;
  const regions = corrections.flatMap((c, i) => (c.black ? [i] : []));
  const full = corrections.filter((c) => c.region).length >= MOST_REGIONS;
  const put = (index: number, part: Partial<Correction>) =>
    corrections.map((c, i) => (i === index ? { ...c, ...part } : c));
  const draw = (kind: "rectangle" | "polygon") =>
    start({
      kind,
      onDone: (places) => {
        const region = { corners: cornersOf(places, width, height), softness: 1, outside: false };
        control.commit({
          corrections: [
            ...corrections,
            {
              ...PLAIN,
              name: `Black ${regions.length + 1}`,
              region,
              black: { ...FIRST_BLACK, method: "none" },
            },
          ],
        });
        onChosen(corrections.length);
      },
    });
  return (
    <Section
      title="Black in a region"
      fact={regions.length ? `${regions.length}` : "none"}
      open={regions.length > 0}
    >
      <Typography variant="body2">
        The colour stays; the region is separated again with its own black.
      </Typography>
      {regions.map((index) => {
        const c = corrections[index];
        if (!c?.black) return null;
        const found = figures?.regions.find((r) => r.correction === index);
        return (
          <Box
            key={index}
            role="group"
            aria-label={c.name || `Region ${index + 1}`}
            sx={{ mt: 1, pl: 1, borderLeft: index === chosen ? 3 : 1, borderColor: "text.primary" }}
            onFocus={() => onChosen(index)}
          >
            <Box sx={{ display: "flex", alignItems: "center" }}>
              <Typography sx={{ flex: 1, fontWeight: 650 }}>
                {c.name || `Region ${index + 1}`}
              </Typography>
              <Button
                onClick={() => {
                  onChosen(null);
                  control.commit({ corrections: corrections.filter((_, i) => i !== index) });
                }}
              >
                Remove
              </Button>
            </Box>
            <BlackControls
              black={c.black}
              onLive={(black) => control.preview({ corrections: put(index, { black }) })}
              onRest={(black) => control.commit({ corrections: put(index, { black }) })}
            />
            {found && (
              <Typography data-testid="region-black" variant="body2">
                <Explained of="region_change">
                  ΔE00 mean <b>{found.de00_mean.toFixed(1)}</b>, worst {found.de00_max.toFixed(1)}
                </Explained>
                ; black {found.black_before.toFixed(0)} → <b>{found.black_after.toFixed(0)} %</b>
              </Typography>
            )}
          </Box>
        );
      })}
      <Box sx={{ display: "flex", gap: 0.75, mt: 1 }}>
        <Button disabled={full} onClick={() => draw("rectangle")}>
          Rectangle…
        </Button>
        <Button disabled={full} onClick={() => draw("polygon")}>
          Polygon…
        </Button>
      </Box>
    </Section>
  );
}
