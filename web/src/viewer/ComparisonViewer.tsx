import { Box, ButtonBase, Typography } from "@mui/material";
import { useMemo, useRef, useState } from "react";

import type { Destination, Job } from "../api";
import type { RecipeControl } from "../jobs/useRecipe";
import { useCommands } from "../shell/useCommands";
import { SURROUNDS, type Surround } from "../theme";
import { type Camera, held, type Size, wholePicture } from "./geometry";
import { gridOf, type Layout, ORIGINAL_LABEL, panesOf } from "./layouts";
import type { Look } from "./look";
import { MapScale } from "./MapScale";
import { Pane } from "./Pane";
import type { Pointer } from "./usePointer";
import { useSize } from "./useSize";
import { ViewMenu } from "./ViewMenu";

interface Props {
  job: Job;
  destination: Destination;
  control: RecipeControl;
  look: Look;
  pointer: Pointer;
  mark: [number, number] | null;
}

const CAPTION = 30;

/** The pictures compared, locked in pan and zoom; one key flips press views to the original. */
export function ComparisonViewer({ job, destination, control, look, pointer, mark }: Props) {
  const stage = useRef<HTMLDivElement>(null);
  const room = useSize(stage);
  const [layout, setLayout] = useState<Layout>("pair");
  const [flipped, setFlipped] = useState(false);
  const [surround, setSurround] = useState<Surround>("mid");
  const [chosen, setChosen] = useState<Camera | null>(null);
  const picture: Size = job.artwork.facts;
  const views = panesOf(layout, job, destination, control.recipe);
  const { columns, rows } = gridOf(views.length);
  const pane: Size = { width: Math.floor(room.width / columns), height: Math.floor(room.height / rows) - CAPTION };
  const camera = useMemo(
    () => (chosen ? held(chosen, picture, pane) : wholePicture(picture, pane)),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [chosen, picture.width, picture.height, pane.width, pane.height],
  );
  const actual = () => setChosen({ cx: camera.cx, cy: camera.cy, scale: 1 / window.devicePixelRatio });
  useCommands({ flip: () => setFlipped(!flipped), whole: () => setChosen(null), actual });
  const grey = SURROUNDS[surround];
  const rule = control.recipe.ink_rules?.tac ?? destination.condition.ink_rules.tac;
  const flip = { fontSize: 12, px: 1, height: 24, color: "inherit", border: "1px solid", borderColor: flipped ? "currentColor" : "transparent" };
  return (
    <Box ref={stage} sx={{ flex: 1, minHeight: 0, overflow: "hidden", bgcolor: grey.colour, color: grey.ink, display: "grid", gridTemplateColumns: `repeat(${columns}, ${pane.width}px)`, alignContent: "start" }}>
      {room.width > 0 && views.map((view, i) => {
        const shown = flipped && view.kind === "proof" ? { ...view, kind: "original" as const, label: ORIGINAL_LABEL } : view;
        const last = i === views.length - 1;
        return (
          <Box key={view.key} sx={{ minWidth: 0 }}>
            <Pane view={shown} look={look} camera={camera} picture={picture} size={pane} onCamera={setChosen} pointer={pointer} mark={mark} />
            <Box sx={{ height: CAPTION, display: "flex", alignItems: "center", gap: 0.5, pl: 1.75, pr: 1, typography: "body2" }}>
              <Typography variant="body2" noWrap sx={{ flex: 1, minWidth: 0, fontWeight: view.kind === "proof" ? 650 : 400 }} data-testid={last ? "proof-caption" : undefined}>
                {shown.label}{shown.kind === "proof" && look.plates ? `, plate ${look.plates.join(" + ")}` : ""}
              </Typography>
              {shown.kind === "proof" && <MapScale look={look} rule={rule} />}
              {last && (
                <>
                  <ButtonBase sx={flip} aria-pressed={flipped} onClick={() => setFlipped(!flipped)}>Flip (J)</ButtonBase>
                  <ViewMenu percent={camera.scale * window.devicePixelRatio * 100} whole={!chosen} onWhole={() => setChosen(null)} onActual={actual} layout={layout} onLayout={setLayout} surround={surround} onSurround={setSurround} />
                </>
              )}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
