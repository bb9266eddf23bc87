import { Box } from "@mui/material";
import type { PointerEvent } from "react";

import { type Camera, MARGIN, type Size, toPane, visibleBox } from "./geometry";
import type { PaneView } from "./layouts";
import type { Look } from "./look";
import { PaneOverlay } from "./PaneOverlay";
import { type Overlay, useTool } from "./tools";
import { useCameraMoves } from "./useCameraMoves";
import { useDrawing } from "./useDrawing";
import { usePicture } from "./usePicture";
import type { Pointer } from "./usePointer";
import { sourceOf, viewUrl } from "./viewUrl";

const ONE = { x: 0, y: 0, w: 1, h: 1 };
/** Screen pixels of bare medium that are shown around a print; the margin of a pane holds them. */
const BARE = MARGIN - 2;

/** The bare medium around the print, with its edge. */
function Sheet({
  url,
  camera,
  picture,
  size,
}: {
  url: string;
  camera: Camera;
  picture: Size;
  size: Size;
}) {
  const [left, top] = toPane(camera, size, 0, 0);
  return (
    <img
      src={url}
      alt="The sheet"
      draggable={false}
      style={{
        position: "absolute",
        left: left - BARE,
        top: top - BARE,
        width: picture.width * camera.scale + 2 * BARE,
        height: picture.height * camera.scale + 2 * BARE,
        outline: "1px solid #000",
      }}
    />
  );
}

interface Props {
  view: PaneView;
  look: Look;
  camera: Camera;
  picture: Size;
  size: Size;
  onCamera: (camera: Camera) => void;
  pointer: Pointer;
  mark: [number, number] | null;
  overlay: Overlay;
  /** Share of the width from the left that is left free, for the picture below. */
  uncovered?: number;
  /** The print lies mirrored on its sheet. */
  mirrored?: boolean;
}

/** One picture in its surround; drags, wheels and arrow keys move every pane. */
export function Pane({
  view,
  look,
  camera,
  picture,
  size,
  onCamera,
  pointer,
  mark,
  overlay,
  uncovered,
  mirrored = false,
}: Props) {
  const { tool, stop } = useTool();
  const drawing = useDrawing(tool, camera.scale, stop);
  const moves = useCameraMoves(camera, picture, size, onCamera, mirrored);
  const box = visibleBox(camera, picture, size);
  const dense = Math.min(2, window.devicePixelRatio);
  const fits = (n: number) => Math.max(1, Math.min(4096, Math.round(n)));
  const request = {
    destination: view.destination,
    artwork: view.artwork,
    box,
    columns: fits(box.w * camera.scale * dense),
    rows: fits(box.h * camera.scale * dense),
    colours: view.colours,
    look,
    ...(view.moment !== undefined && { moment: view.moment }),
  };
  const ready = size.width > 0 && size.height > 0;
  const proof = usePicture(
    ready && view.kind !== "original" ? viewUrl({ ...request, pane: view.kind }) : null,
    box,
  );
  const original = usePicture(
    ready
      ? viewUrl({
          destination: view.destination,
          artwork: view.artwork,
          box,
          columns: request.columns,
          rows: request.rows,
          look,
          pane: "original",
          colours: sourceOf(view.colours),
        })
      : null,
    box,
  );
  const picked = view.kind === "original" ? original : proof;
  const move = (e: PointerEvent<HTMLElement>) => {
    moves.drag(e);
    const [px, py] = moves.place(e);
    drawing.move([px, py]);
    if (px >= 0 && py >= 0 && px < picture.width && py < picture.height) pointer.move(px, py);
  };
  const shown = picked.shown;
  const onSheet = look.sheet && view.kind !== "original" && view.kind !== "corrected";
  const [left, top] = shown ? toPane(camera, size, shown.box.x, shown.box.y) : [0, 0];
  const cross = pointer.at && toPane(camera, size, pointer.at[0] + 0.5, pointer.at[1] + 0.5);
  const marked = mark && toPane(camera, size, mark[0] + 0.5, mark[1] + 0.5);
  return (
    <Box
      role="img"
      aria-label={view.label}
      tabIndex={0}
      data-pane={view.kind}
      data-loading={picked.loading}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        if (!drawing.press(moves.place(e))) moves.grip(e);
      }}
      onPointerMove={move}
      onPointerUp={(e) => {
        drawing.release(moves.place(e));
        moves.release();
      }}
      onWheel={moves.wheel}
      onDoubleClick={(e) => {
        if (tool) return;
        const [px, py] = moves.place(e);
        onCamera({ cx: px, cy: py, scale: 1 / window.devicePixelRatio });
      }}
      onKeyDown={(e) => {
        if (e.key === "Enter") drawing.finish();
        moves.key(e);
      }}
      sx={{
        position: "relative",
        width: size.width,
        height: size.height,
        overflow: "hidden",
        cursor: tool ? "cell" : "crosshair",
        ...(uncovered !== undefined && {
          position: "absolute",
          inset: 0,
          clipPath: `inset(0 0 0 ${uncovered * 100}%)`,
        }),
        touchAction: "none",
        userSelect: "none",
        ...(mirrored && { transform: "scaleX(-1)" }),
      }}
    >
      {onSheet && (
        <Sheet
          url={viewUrl({ ...request, box: ONE, columns: 1, rows: 1, pane: "proof", sheet: true })}
          camera={camera}
          picture={picture}
          size={size}
        />
      )}
      {shown && (
        <img
          src={shown.url}
          alt=""
          draggable={false}
          style={{
            position: "absolute",
            left,
            top,
            width: shown.box.w * camera.scale,
            height: shown.box.h * camera.scale,
            imageRendering: camera.scale > 3 ? "pixelated" : "auto",
          }}
        />
      )}
      {picked.failed && (
        <Box
          role="alert"
          sx={{
            position: "absolute",
            inset: 0,
            display: "grid",
            placeItems: "center",
            p: 4,
            textAlign: "center",
            ...(mirrored && { transform: "scaleX(-1)" }),
          }}
        >
          This view could not be made. Check the source profile, or reload the page.
        </Box>
      )}
      <PaneOverlay
        overlay={overlay}
        tool={tool}
        drawn={drawing.places}
        camera={camera}
        size={size}
        mirrored={mirrored}
      />
      {cross && (
        <Box
          aria-hidden
          sx={{
            position: "absolute",
            left: cross[0] - 4,
            top: cross[1] - 4,
            width: 9,
            height: 9,
            border: "1px solid #fff",
            outline: "1px solid #000",
            pointerEvents: "none",
          }}
        />
      )}
      {marked && (
        <Box
          aria-hidden
          data-testid="tac-mark"
          sx={{
            position: "absolute",
            left: marked[0] - 15,
            top: marked[1] - 15,
            width: 30,
            height: 30,
            border: "2px solid #fff",
            outline: "2px solid #000",
            pointerEvents: "none",
          }}
        />
      )}
    </Box>
  );
}
