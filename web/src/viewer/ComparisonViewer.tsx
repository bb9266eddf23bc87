import { Box, ButtonBase, Slider, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";

import { api, ask, type Destination, type Job } from "../api";
import { keys } from "../queries/keys";
import type { RecipeControl } from "../recipe";
import { SURROUNDS } from "../theme";
import { Pick } from "../ui";
import { useCommands } from "../ui/useCommands";
import { type Camera, held, type Size, wholePicture } from "./geometry";
import {
  canSendAsIs,
  CAPTION,
  fitted,
  gridOf,
  type MomentChoice,
  panesOf,
  type PaneView,
} from "./layouts";
import type { Look } from "./look";
import { MapScale } from "./MapScale";
import { Pane } from "./Pane";
import { BAR, SaturatedBar } from "./SaturatedBar";
import { type Overlay, TOOL_WORDS, useTool } from "./tools";
import { useLookFile } from "./useLookFile";
import type { Pointer } from "./usePointer";
import { useSize } from "./useSize";
import { ViewMenu } from "./ViewMenu";

interface Props {
  job: Job;
  destination: Destination;
  control: RecipeControl;
  look: Look;
  onLook: (look: Look) => void;
  pointer: Pointer;
  mark: [number, number] | null;
  overlay: Overlay;
}

/** What is marked in a press view or left out of it, after its name. */
function captionOf(look: Look): string {
  const parts = [
    ...(look.plates ? [`plate ${look.plates.join(" + ")}`] : []),
    ...(look.veilOn && !look.map
      ? [
          `${look.ways.length === 3 ? "out of gamut" : look.ways.map((w) => `too ${w}`).join(" and ")} ${look.veil === "hatch" ? "hatched" : "covered"}`,
        ]
      : []),
    ...(look.screenVeilOn && !look.map ? ["beyond the screen covered"] : []),
    ...(look.plays === "paper"
      ? ["with its paper"]
      : look.plays === "colours"
        ? ["colours only"]
        : []),
  ];
  return parts.map((part) => `, ${part}`).join("");
}

/** The pictures compared, locked in pan and zoom; one key flips the last one to the first. */
export function ComparisonViewer({
  job,
  destination,
  control,
  look,
  onLook,
  pointer,
  mark,
  overlay,
}: Props) {
  const stage = useRef<HTMLDivElement>(null);
  const room = useSize(stage);
  const { tool, stop } = useTool();
  const { layout, surround } = look;
  const [moments, setMoments] = useState<[MomentChoice, MomentChoice]>([0, "present"]);
  const [split, setSplit] = useState(50);
  const [flipped, setFlipped] = useState(false);
  const [chosen, setChosen] = useState<Camera | null>(null);
  const history = useQuery({
    queryKey: [...keys.moments, destination.id, destination.revision],
    queryFn: () =>
      ask(api.GET("/api/destinations/{id}/moments", { params: { path: { id: destination.id } } })),
    enabled: layout === "moments",
    placeholderData: keepPreviousData,
  });
  const lookFile = useLookFile(job.id, look, onLook);
  const picture: Size = job.artwork.facts;
  const numbers = history.data?.map((m) => m.number) ?? [destination.position];
  const [oldest = 0, newest = 0] = [numbers[0], numbers.at(-1)];
  const both = moments.map((m) =>
    m === "present" ? m : Math.min(Math.max(m, oldest), newest),
  ) as [MomentChoice, MomentChoice];
  const all = panesOf({
    layout,
    job,
    destination,
    recipe: control.recipe,
    display: look.display,
    moments: both,
  });
  const two = all.length === 2;
  const page: Size = { width: window.innerWidth, height: window.innerHeight };
  const arrangement = look.arrangement === "fit" ? fitted(picture, room, page) : look.arrangement;
  const views = two && arrangement === "single" ? all.slice(1) : all;
  const isSplit = two && arrangement === "split";
  const { columns, rows } = gridOf(isSplit ? 1 : views.length, arrangement === "stacked");
  const pane: Size = {
    width: Math.floor(room.width / columns),
    height: Math.floor(room.height / rows) - CAPTION - (look.bar ? BAR : 0),
  };
  const camera = useMemo(
    () => (chosen ? held(chosen, picture, pane) : wholePicture(picture, pane)),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [chosen, picture.width, picture.height, pane.width, pane.height],
  );
  const actual = () =>
    setChosen({ cx: camera.cx, cy: camera.cy, scale: 1 / window.devicePixelRatio });
  useCommands({ flip: () => setFlipped(!flipped), whole: () => setChosen(null), actual, stop });
  const grey = SURROUNDS[surround];
  const rule = control.recipe.ink_rules?.tac ?? destination.condition.ink_rules.tac;
  const flip = {
    fontSize: 12,
    px: 1,
    height: 24,
    color: "inherit",
    border: "1px solid",
    borderColor: flipped ? "currentColor" : "transparent",
  };
  const common = { look, camera, picture, size: pane, onCamera: setChosen, pointer, mark, overlay };
  // Beside a dividing line both must lie the same way round.
  const mirrors = (view: PaneView) =>
    look.sheet && !isSplit && control.recipe.delivery.mirror && view.kind === "proof";
  const caption = (view: PaneView, index: number, last: boolean) =>
    layout === "moments" && two ? (
      <Pick
        label={index ? "Second moment" : "First moment"}
        value={String(both[index])}
        options={[
          ...(history.data ?? []).map((m): [string, string] => [
            String(m.number),
            `Moment ${m.number + 1}: ${m.label}`,
          ]),
          ["present", "As it is now"],
        ]}
        onChange={(next) => {
          const value: MomentChoice = next === "present" ? "present" : Number(next);
          setMoments(index ? [both[0], value] : [value, both[1]]);
        }}
        sx={{
          flex: 1,
          minWidth: 0,
          fontSize: 12,
          color: "inherit",
          "&::before, &::after": { display: "none" },
          "& select": { py: 0 },
          "& option": { color: "text.primary", bgcolor: "background.paper" },
          "& svg": { color: "inherit" },
        }}
      />
    ) : (
      <Typography
        variant="body2"
        noWrap
        sx={{ flex: 1, minWidth: 0, fontWeight: view.kind === "proof" ? 650 : 400 }}
        data-testid={last ? "proof-caption" : undefined}
      >
        {view.label}
        {view.kind === "proof" ? captionOf(look) : ""}
        {mirrors(view) ? ", mirrored" : ""}
      </Typography>
    );
  const menu = (
    <>
      <ButtonBase sx={flip} aria-pressed={flipped} onClick={() => setFlipped(!flipped)}>
        Flip (J)
      </ButtonBase>
      <ViewMenu
        percent={camera.scale * window.devicePixelRatio * 100}
        whole={!chosen}
        onWhole={() => setChosen(null)}
        onActual={actual}
        layout={layout}
        onLayout={(next) => onLook({ ...look, layout: next })}
        arrangement={look.arrangement}
        onArrangement={(next) => onLook({ ...look, arrangement: next })}
        surround={surround}
        onSurround={(next) => onLook({ ...look, surround: next })}
        bar={look.bar}
        onBar={(bar) => onLook({ ...look, bar })}
        sheet={look.sheet}
        onSheet={(sheet) => onLook({ ...look, sheet })}
        onLookOut={lookFile.out}
        onLookIn={lookFile.in}
        without={canSendAsIs(job, destination) ? [] : ["unconverted"]}
      />
      {lookFile.parts}
    </>
  );
  const bar = {
    height: CAPTION,
    display: "flex",
    alignItems: "center",
    gap: 0.5,
    pl: 1.75,
    pr: 1,
    typography: "body2",
    bgcolor: grey.bar,
  };
  const [below, above] = all;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column" }}>
      {tool && (
        <Box
          role="status"
          sx={{
            flex: "none",
            display: "flex",
            alignItems: "center",
            gap: 1,
            px: 1.75,
            minHeight: 30,
            bgcolor: "text.primary",
            color: "background.paper",
          }}
        >
          <Typography variant="body2" sx={{ flex: 1 }}>
            {TOOL_WORDS[tool.kind]}
          </Typography>
          <ButtonBase
            onClick={stop}
            sx={{
              fontSize: 12,
              fontWeight: 600,
              px: 1,
              height: 24,
              border: "1px solid currentColor",
            }}
          >
            Stop
          </ButtonBase>
        </Box>
      )}
      <Box
        ref={stage}
        sx={{
          flex: 1,
          minHeight: 0,
          overflow: "hidden",
          bgcolor: grey.colour,
          color: grey.ink,
          display: "grid",
          gridTemplateColumns: `repeat(${columns}, ${pane.width}px)`,
          alignContent: "start",
        }}
      >
        {room.width > 0 && isSplit && below && above && (
          <Box sx={{ minWidth: 0 }}>
            <Box sx={{ position: "relative", width: pane.width, height: pane.height }}>
              <Pane {...common} view={flipped ? above : below} />
              <Pane {...common} view={above} uncovered={split / 100} />
              <Box
                aria-hidden
                sx={{
                  position: "absolute",
                  top: 0,
                  bottom: 0,
                  left: `${split}%`,
                  width: "1px",
                  bgcolor: "#fff",
                  boxShadow: "1px 0 0 #000",
                  pointerEvents: "none",
                }}
              />
            </Box>
            {look.bar &&
              [below, above].map((view) => (
                <SaturatedBar
                  key={view.key}
                  view={view}
                  look={look}
                  width={pane.width}
                  height={BAR / 2}
                />
              ))}
            <Box sx={bar}>
              {caption(below, 0, false)}
              <Slider
                size="small"
                aria-label="Place of the dividing line"
                value={split}
                onChange={(_, v) => setSplit(v as number)}
                sx={{ width: "34%", mx: 2, color: "inherit" }}
              />
              {caption(above, 1, true)}
              <MapScale look={look} rule={rule} />
              {menu}
            </Box>
          </Box>
        )}
        {room.width > 0 &&
          !isSplit &&
          views.map((view, i) => {
            const last = i === views.length - 1;
            const other = two ? all[0] : undefined;
            const shown =
              flipped && last && other
                ? other
                : flipped && !two && view.kind === "proof"
                  ? { ...view, kind: "original" as const, label: "Original" }
                  : view;
            return (
              <Box key={view.key} sx={{ minWidth: 0 }}>
                <Pane {...common} view={shown} mirrored={mirrors(shown)} />
                {look.bar && <SaturatedBar view={shown} look={look} width={pane.width} />}
                <Box sx={bar}>
                  {caption(shown, two && arrangement === "single" ? (flipped ? 0 : 1) : i, last)}
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
