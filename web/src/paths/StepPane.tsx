import { Box } from "@mui/material";
import { type PointerEvent, useRef, useState } from "react";

import type { FollowedRow } from "../api";
import { type Camera, type Size, useCameraMoves, usePicture, visibleBox } from "../viewer";
import { between, centres, type Region } from "./region";

interface Props {
  title: string;
  /** The address of a region of the picture in so many columns and rows. */
  address: (part: { box: ReturnType<typeof visibleBox>; columns: number; rows: number }) => string;
  picture: Size;
  size: Size;
  camera: Camera;
  onCamera: (camera: Camera) => void;
  region: Region | null;
  placed: FollowedRow[];
  chosen: FollowedRow | null;
  onChoose: (row: FollowedRow) => void;
  onRegion: ((change: Partial<Region>) => void) | null;
}

/** Screen pixels within which a click means a mark, and a press that moved less is a click. */
const NEAR = 9;
const STILL = 3;

/** The mark nearest to a place of the picture, if one is near. */
export function markAt(
  placed: readonly FollowedRow[],
  [x, y]: readonly [number, number],
  within: number,
): FollowedRow | null {
  let [best, least] = [null as FollowedRow | null, within];
  for (const row of placed) {
    const away = Math.hypot((row.place?.[0] ?? Infinity) - x, (row.place?.[1] ?? 0) - y);
    if (away <= least) [best, least] = [row, away];
  }
  return best;
}

/** One picture on the neutral surround; marks and region lie over it in thin lines of black and white. */
export function StepPane({
  title,
  address,
  picture,
  size,
  camera,
  onCamera,
  region,
  placed,
  chosen,
  onChoose,
  onRegion,
}: Props) {
  const moves = useCameraMoves(camera, picture, size, onCamera);
  const pressed = useRef<[number, number] | null>(null);
  const [start, setStart] = useState<{ at: [number, number]; moves: Region | null } | null>(null);
  const box = visibleBox(camera, picture, size);
  const dense = Math.min(2, window.devicePixelRatio);
  const fits = (n: number) => Math.max(1, Math.min(4096, Math.round(n * camera.scale * dense)));
  const { shown, loading, failed } = usePicture(
    address({ box, columns: fits(box.w), rows: fits(box.h) }),
    box,
  );
  const unit = 1 / camera.scale;
  const left = camera.cx - (size.width / 2) * unit;
  const top = camera.cy - (size.height / 2) * unit;
  const inside = (r: Region, [x, y]: [number, number]) =>
    x > r.x && x < r.x + r.width && y > r.y && y < r.y + r.height;
  const press = (e: PointerEvent<HTMLElement>) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    pressed.current = [e.clientX, e.clientY];
    if (!onRegion || !region) return moves.grip(e);
    const here = moves.place(e);
    setStart({ at: here, moves: inside(region, here) ? region : null });
  };
  const move = (e: PointerEvent<HTMLElement>) => {
    moves.drag(e);
    if (!onRegion || !start) return;
    const [x, y] = moves.place(e);
    onRegion(
      start.moves
        ? { x: start.moves.x + x - start.at[0], y: start.moves.y + y - start.at[1] }
        : between(start.at, [x, y]),
    );
  };
  const release = (e: PointerEvent<HTMLElement>) => {
    moves.release();
    setStart(null);
    const from = pressed.current;
    pressed.current = null;
    if (region || !from || Math.hypot(e.clientX - from[0], e.clientY - from[1]) > STILL) return;
    const row = markAt(placed, moves.place(e), NEAR * unit);
    if (row) onChoose(row);
  };
  const shownPlace = chosen?.place;
  return (
    <Box
      role="img"
      aria-label={title}
      tabIndex={0}
      data-loading={loading}
      data-scale={camera.scale.toFixed(4)}
      data-marks={placed.map((row) => row.name).join(" ")}
      onPointerDown={press}
      onPointerMove={move}
      onPointerUp={release}
      onWheel={moves.wheel}
      onDoubleClick={(e) => {
        if (region) return;
        const [cx, cy] = moves.place(e);
        onCamera({ cx, cy, scale: 1 / window.devicePixelRatio });
      }}
      onKeyDown={moves.key}
      sx={{
        position: "relative",
        width: size.width,
        height: size.height,
        overflow: "hidden",
        bgcolor: "#808080",
        cursor: onRegion ? "crosshair" : "grab",
        touchAction: "none",
        userSelect: "none",
        "&:focus-visible": { outlineOffset: -2 },
      }}
    >
      {shown && (
        <img
          src={shown.url}
          alt=""
          draggable={false}
          style={{
            position: "absolute",
            left: (shown.box.x - left) * camera.scale,
            top: (shown.box.y - top) * camera.scale,
            width: shown.box.w * camera.scale,
            height: shown.box.h * camera.scale,
            imageRendering: camera.scale > 3 ? "pixelated" : "auto",
          }}
        />
      )}
      {failed && (
        <Box role="alert" sx={{ position: "absolute", inset: 0, p: 3, textAlign: "center" }}>
          This picture could not be made. Reload the page.
        </Box>
      )}
      <Box
        component="svg"
        aria-hidden
        viewBox={`${left} ${top} ${size.width * unit} ${size.height * unit}`}
        sx={{
          position: "absolute",
          inset: 0,
          width: size.width,
          height: size.height,
          pointerEvents: "none",
        }}
      >
        {region && (
          <Lined unit={unit}>
            <rect x={region.x} y={region.y} width={region.width} height={region.height} />
            {centres(region).map(([x, y], i) => (
              <rect
                key={i}
                x={x - region.mark / 2}
                y={y - region.mark / 2}
                width={Math.max(region.mark, unit * 2)}
                height={Math.max(region.mark, unit * 2)}
              />
            ))}
          </Lined>
        )}
        {!region && (
          <Lined unit={unit}>
            {placed.map((row) => (
              <circle key={row.row} cx={row.place?.[0]} cy={row.place?.[1]} r={unit * 4} />
            ))}
          </Lined>
        )}
        {!region && shownPlace && (
          <Lined unit={unit * 1.6}>
            <circle cx={shownPlace[0]} cy={shownPlace[1]} r={unit * 10} />
          </Lined>
        )}
      </Box>
    </Box>
  );
}

/** Lines that stand out on every colour: white on black. */
function Lined({ unit, children }: { unit: number; children: React.ReactNode }) {
  return (
    <>
      <g fill="none" stroke="#000000" strokeWidth={unit * 2.4}>
        {children}
      </g>
      <g fill="none" stroke="#ffffff" strokeWidth={unit}>
        {children}
      </g>
    </>
  );
}
