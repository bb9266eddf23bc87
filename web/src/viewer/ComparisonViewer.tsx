import { Box, ButtonBase, NativeSelect, Slider, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";

import { api, ask, type Destination, type Job } from "../api";
import type { RecipeControl } from "../jobs/useRecipe";
import { useCommands } from "../shell/useCommands";
import { SURROUNDS, type Surround } from "../theme";
import { type Camera, held, type Size, wholePicture } from "./geometry";
import { type Arrangement, gridOf, type Layout, panesOf, type PaneView, type StateChoice } from "./layouts";
import type { Look } from "./look";
import { MapScale } from "./MapScale";
import { Pane } from "./Pane";
import { type Overlay, TOOL_WORDS, useTool } from "./tools";
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
  overlay: Overlay;
}

const CAPTION = 30;

/** The pictures compared, locked in pan and zoom; one key flips the last one to the first. */
export function ComparisonViewer({ job, destination, control, look, pointer, mark, overlay }: Props) {
  const stage = useRef<HTMLDivElement>(null);
  const room = useSize(stage);
  const { tool, stop } = useTool();
  const [layout, setLayout] = useState<Layout>("pair");
  const [arrangement, setArrangement] = useState<Arrangement>("side");
  const [states, setStates] = useState<[StateChoice, StateChoice]>([0, "present"]);
  const [split, setSplit] = useState(50);
  const [flipped, setFlipped] = useState(false);
  const [surround, setSurround] = useState<Surround>("mid");
  const [chosen, setChosen] = useState<Camera | null>(null);
  const history = useQuery({
    queryKey: ["history", destination.id, JSON.stringify(destination.recipe)],
    queryFn: () => ask(api.GET("/api/destinations/{id}/history", { params: { path: { id: destination.id } } })),
    enabled: layout === "states",
  });
  const picture: Size = job.artwork.facts;
  const known = history.data?.length ?? 1;
  const held2 = states.map((s) => (s === "present" ? s : Math.min(s, known - 1))) as [StateChoice, StateChoice];
  const all = panesOf({ layout, job, destination, recipe: control.recipe, display: look.display, states: held2 });
  const two = all.length === 2;
  const views = two && arrangement === "single" ? all.slice(1) : all;
  const isSplit = two && arrangement === "split";
  const { columns, rows } = gridOf(isSplit ? 1 : views.length);
  const pane: Size = { width: Math.floor(room.width / columns), height: Math.floor(room.height / rows) - CAPTION };
  const camera = useMemo(
    () => (chosen ? held(chosen, picture, pane) : wholePicture(picture, pane)),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [chosen, picture.width, picture.height, pane.width, pane.height],
  );
  const actual = () => setChosen({ cx: camera.cx, cy: camera.cy, scale: 1 / window.devicePixelRatio });
  useCommands({ flip: () => setFlipped(!flipped), whole: () => setChosen(null), actual, stop });
  const grey = SURROUNDS[surround];
  const rule = control.recipe.ink_rules?.tac ?? destination.condition.ink_rules.tac;
  const flip = { fontSize: 12, px: 1, height: 24, color: "inherit", border: "1px solid", borderColor: flipped ? "currentColor" : "transparent" };
  const common = { look, camera, picture, size: pane, onCamera: setChosen, pointer, mark, overlay };
  const caption = (view: PaneView, index: number) =>
    layout === "states" && two ? (
      <NativeSelect
        disableUnderline value={String(held2[index])} inputProps={{ "aria-label": index ? "Right state" : "Left state" }} sx={{ flex: 1, minWidth: 0, fontSize: 12, color: "inherit", "& select": { py: 0 }, "& option": { color: "text.primary", bgcolor: "background.paper" }, "& svg": { color: "inherit" } }}
        onChange={(e) => {
          const value: StateChoice = e.target.value === "present" ? "present" : Number(e.target.value);
          setStates(index ? [held2[0], value] : [value, held2[1]]);
        }}
      >
        {history.data?.map((s) => <option key={s.position} value={s.position}>{`State ${s.position + 1}: ${s.label}`}</option>)}
        <option value="present">As it is now</option>
      </NativeSelect>
    ) : (
      <Typography variant="body2" noWrap sx={{ flex: 1, minWidth: 0, fontWeight: view.kind === "proof" ? 650 : 400 }} data-testid={index === views.length - 1 ? "proof-caption" : undefined}>
        {view.label}{view.kind === "proof" && look.plates ? `, plate ${look.plates.join(" + ")}` : ""}
      </Typography>
    );
  const menu = (
    <>
      <ButtonBase sx={flip} aria-pressed={flipped} onClick={() => setFlipped(!flipped)}>Flip (J)</ButtonBase>
      <ViewMenu percent={camera.scale * window.devicePixelRatio * 100} whole={!chosen} onWhole={() => setChosen(null)} onActual={actual} layout={layout} onLayout={setLayout} arrangement={arrangement} onArrangement={setArrangement} surround={surround} onSurround={setSurround} />
    </>
  );
  const bar = { height: CAPTION, display: "flex", alignItems: "center", gap: 0.5, pl: 1.75, pr: 1, typography: "body2" };
  const [below, above] = all;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
      {tool && (
        <Box role="status" sx={{ flex: "none", display: "flex", alignItems: "center", gap: 1, px: 1.75, minHeight: 30, bgcolor: "text.primary", color: "background.paper" }}>
          <Typography variant="body2" sx={{ flex: 1 }}>{TOOL_WORDS[tool.kind]}</Typography>
          <ButtonBase onClick={stop} sx={{ fontSize: 12, fontWeight: 600, px: 1, height: 24, border: "1px solid currentColor" }}>Stop</ButtonBase>
        </Box>
      )}
      <Box ref={stage} sx={{ flex: 1, minHeight: 0, overflow: "hidden", bgcolor: grey.colour, color: grey.ink, display: "grid", gridTemplateColumns: `repeat(${columns}, ${pane.width}px)`, alignContent: "start" }}>
        {room.width > 0 && isSplit && below && above && (
          <Box sx={{ minWidth: 0 }}>
            <Box sx={{ position: "relative", width: pane.width, height: pane.height }}>
              <Pane {...common} view={flipped ? above : below} />
              <Pane {...common} view={above} uncovered={split / 100} />
              <Box aria-hidden sx={{ position: "absolute", top: 0, bottom: 0, left: `${split}%`, width: "1px", bgcolor: "#fff", boxShadow: "1px 0 0 #000", pointerEvents: "none" }} />
            </Box>
            <Box sx={bar}>
              {caption(below, 0)}
              <Slider size="small" aria-label="Place of the dividing line" value={split} onChange={(_, v) => setSplit(v as number)} sx={{ width: "34%", mx: 2, color: "inherit" }} />
              {caption(above, 1)}
              <MapScale look={look} rule={rule} />
              {menu}
            </Box>
          </Box>
        )}
        {room.width > 0 && !isSplit && views.map((view, i) => {
          const last = i === views.length - 1;
          const other = two ? all[0] : undefined;
          const shown = flipped && last && other ? other : flipped && !two && view.kind === "proof" ? { ...view, kind: "original" as const, label: "Original" } : view;
          return (
            <Box key={view.key} sx={{ minWidth: 0 }}>
              <Pane {...common} view={shown} />
              <Box sx={bar}>
                {caption(shown, two && arrangement === "single" ? (flipped ? 0 : 1) : i)}
                {shown.kind === "proof" && <MapScale look={look} rule={rule} />}
                {last && menu}
              </Box>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
