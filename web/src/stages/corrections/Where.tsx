import { Box, Button, ButtonBase, Typography } from "@mui/material";

import { api, ask, DEFAULTS } from "../../api";
import { Explained } from "../../ui";
import { Dial, Toggle } from "../../ui/controls";
import { useTool } from "../../viewer";
import type { EditorProps } from "./CorrectionEditor";
import { cornersOf, MOST_REGIONS } from "./words";

/** Where a correction acts: everywhere, in a rectangle or polygon, on colours near a chosen one. */
export function Where({
  job,
  destination,
  control,
  correction,
  index,
  look,
  onLook,
  onLive,
  onRest,
}: EditorProps) {
  const { tool, start } = useTool();
  const { width, height } = job.artwork.facts;
  const { region, colours } = correction;
  const taken = control.recipe.corrections.filter((c) => c.region).length;
  const full = !region && taken >= MOST_REGIONS;
  const draw = (kind: "rectangle" | "polygon") =>
    start({
      kind,
      onDone: (places) =>
        onRest({
          region: {
            corners: cornersOf(places, width, height),
            softness: region?.softness ?? DEFAULTS.Region.softness,
            outside: region?.outside ?? DEFAULTS.Region.outside,
          },
        }),
    });
  const pick = () =>
    start({
      kind: "colour",
      onDone: ([at]) => {
        if (!at) return;
        const query = { x: Math.floor(at[0]), y: Math.floor(at[1]) };
        ask(
          api.GET("/api/destinations/{id}/readout", {
            params: { path: { id: destination.id }, query },
          }),
        ).then(
          (found) =>
            onRest({
              colours: {
                lab: found.lab,
                radius: colours?.radius ?? DEFAULTS.ColourRange.radius,
                softness: colours?.softness ?? DEFAULTS.ColourRange.softness,
              },
            }),
          control.fail,
        );
      },
    });
  const shown = look.map === "correction" && look.correction === index;
  const cell = {
    height: 26,
    px: 0.5,
    fontSize: 11.5,
    fontWeight: 600,
    border: 1,
    borderColor: "text.secondary",
    mr: "-1px",
    flex: "none",
    "&.Mui-disabled": { opacity: 0.45 },
  };
  const on = { bgcolor: "text.primary", color: "background.paper" };
  return (
    <Box sx={{ mt: 1 }}>
      <Typography>
        <Explained
          text={`A correction acts everywhere, or in one region. A recipe holds up to ${MOST_REGIONS} regions.`}
        >
          Where
        </Explained>
      </Typography>
      <Box sx={{ display: "flex", mt: 0.25 }}>
        <ButtonBase
          sx={{ ...cell, ...(!region && on) }}
          aria-pressed={!region}
          disabled={Boolean(correction.black)}
          onClick={() => onRest({ region: null })}
        >
          Everywhere
        </ButtonBase>
        <ButtonBase
          sx={{ ...cell, ...(tool?.kind === "rectangle" && on) }}
          disabled={full}
          onClick={() => draw("rectangle")}
        >
          Rectangle…
        </ButtonBase>
        <ButtonBase
          sx={{ ...cell, ...(tool?.kind === "polygon" && on) }}
          disabled={full}
          onClick={() => draw("polygon")}
        >
          Polygon…
        </ButtonBase>
      </Box>
      {region && (
        <>
          <Dial
            label="Soft edge"
            unit=" %"
            min={0}
            max={50}
            value={region.softness}
            help="Width of the edge, in percent of the picture's shorter side."
            onLive={(softness) => onLive({ region: { ...region, softness } })}
            onRest={(softness) => onRest({ region: { ...region, softness } })}
          />
          <Toggle
            label="Outside it instead"
            checked={region.outside}
            help="Acts on everything but the region."
            onChange={(outside) => onRest({ region: { ...region, outside } })}
          />
        </>
      )}
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, mt: 0.75 }}>
        <Typography sx={{ flex: 1 }}>
          <Explained text="Limits the correction to colours near one that you click in the picture.">
            Colours
          </Explained>
        </Typography>
        <Button onClick={pick}>{colours ? "Another…" : "Choose…"}</Button>
        {colours && <Button onClick={() => onRest({ colours: null })}>All</Button>}
      </Box>
      {colours && (
        <>
          <Typography variant="body2" color="text.secondary">
            near L* {colours.lab.map((v) => v.toFixed(0).replace("-", "−")).join(", ")}
          </Typography>
          <Dial
            label="Radius"
            unit=" ΔE"
            min={2}
            max={150}
            value={colours.radius}
            help="Colours within this distance (CIE 1976) are changed fully."
            onLive={(radius) => onLive({ colours: { ...colours, radius } })}
            onRest={(radius) => onRest({ colours: { ...colours, radius } })}
          />
          <Dial
            label="Fade"
            unit=" %"
            min={10}
            max={300}
            value={colours.softness}
            help="How far beyond the radius the change fades out, in percent of the radius."
            onLive={(softness) => onLive({ colours: { ...colours, softness } })}
            onRest={(softness) => onRest({ colours: { ...colours, softness } })}
          />
        </>
      )}
      {(region || colours) && (
        <Toggle
          label="Show where it acts"
          checked={shown}
          help="White where the correction acts fully, black where it does not."
          onChange={(yes) => onLook({ ...look, map: yes ? "correction" : "", correction: index })}
        />
      )}
    </Box>
  );
}
