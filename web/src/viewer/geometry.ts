import type { Box } from "./viewUrl";

/** Where the pane looks: the picture point at its centre, and screen pixels per picture pixel. */
export interface Camera {
  cx: number;
  cy: number;
  scale: number;
}

export interface Size {
  width: number;
  height: number;
}

export const MARGIN = 14;
export const MAX_SCALE = 16;

/** The camera that shows the whole picture with a margin. */
export function wholePicture(picture: Size, pane: Size): Camera {
  const scale = Math.min(
    Math.max(1, pane.width - 2 * MARGIN) / picture.width,
    Math.max(1, pane.height - 2 * MARGIN) / picture.height,
  );
  return { cx: picture.width / 2, cy: picture.height / 2, scale };
}

/** The picture point under a point of the pane. */
export function toPicture(camera: Camera, pane: Size, x: number, y: number): [number, number] {
  return [
    camera.cx + (x - pane.width / 2) / camera.scale,
    camera.cy + (y - pane.height / 2) / camera.scale,
  ];
}

/** Where a picture point lies in the pane. */
export function toPane(camera: Camera, pane: Size, x: number, y: number): [number, number] {
  return [
    (x - camera.cx) * camera.scale + pane.width / 2,
    (y - camera.cy) * camera.scale + pane.height / 2,
  ];
}

/** Zoom about a point of the pane; between the whole picture's scale (or less) and 16. */
export function zoomAt(
  camera: Camera,
  picture: Size,
  pane: Size,
  x: number,
  y: number,
  factor: number,
): Camera {
  const least = Math.min(1, wholePicture(picture, pane).scale);
  const scale = Math.min(MAX_SCALE, Math.max(least, camera.scale * factor));
  const [px, py] = toPicture(camera, pane, x, y);
  return held(
    { cx: px - (x - pane.width / 2) / scale, cy: py - (y - pane.height / 2) / scale, scale },
    picture,
    pane,
  );
}

/** Keep the picture in sight: centred when it fits, else without gaps beyond the margin. */
export function held(camera: Camera, picture: Size, pane: Size): Camera {
  const keep = (centre: number, length: number, room: number) => {
    const half = room / 2 / camera.scale - MARGIN / camera.scale;
    return length * camera.scale <= room - 2 * MARGIN + 0.5
      ? length / 2
      : Math.min(length - half, Math.max(half, centre));
  };
  return {
    ...camera,
    cx: keep(camera.cx, picture.width, pane.width),
    cy: keep(camera.cy, picture.height, pane.height),
  };
}

/** The part of the picture that the pane shows, in whole picture pixels. */
export function visibleBox(camera: Camera, picture: Size, pane: Size): Box {
  const [left, top] = toPicture(camera, pane, 0, 0);
  const [right, bottom] = toPicture(camera, pane, pane.width, pane.height);
  const x = Math.max(0, Math.floor(left));
  const y = Math.max(0, Math.floor(top));
  return {
    x,
    y,
    w: Math.max(1, Math.min(picture.width, Math.ceil(right)) - x),
    h: Math.max(1, Math.min(picture.height, Math.ceil(bottom)) - y),
  };
}
