import { type KeyboardEvent, type PointerEvent, useRef, type WheelEvent } from "react";

import { type Camera, held, type Size, toPicture, zoomAt } from "./geometry";

const PAN = 48;

/** How a pane's pointer, wheel and keys move a camera over a picture. */
export function useCameraMoves(
  camera: Camera,
  picture: Size,
  size: Size,
  onCamera: (camera: Camera) => void,
  /** Left and right of the pane are changed over. */
  mirrored = false,
) {
  const drag = useRef<{ x: number; y: number; camera: Camera } | null>(null);
  const by = (from: Camera, x: number, y: number) =>
    onCamera(
      held({ ...from, cx: from.cx + x / from.scale, cy: from.cy + y / from.scale }, picture, size),
    );
  const across = (x: number) => (mirrored ? size.width - x : x);
  const along = mirrored ? -1 : 1;
  const zoom = (x: number, y: number, factor: number) =>
    onCamera(zoomAt(camera, picture, size, x, y, factor));
  const keys: Record<string, () => void> = {
    ArrowLeft: () => by(camera, -PAN * along, 0),
    ArrowRight: () => by(camera, PAN * along, 0),
    ArrowUp: () => by(camera, 0, -PAN),
    ArrowDown: () => by(camera, 0, PAN),
    "+": () => zoom(size.width / 2, size.height / 2, 1.4),
    "-": () => zoom(size.width / 2, size.height / 2, 1 / 1.4),
  };
  return {
    /** The picture point under an event. */
    place: (e: { clientX: number; clientY: number; currentTarget: Element }): [number, number] => {
      const r = e.currentTarget.getBoundingClientRect();
      return toPicture(camera, size, across(e.clientX - r.left), e.clientY - r.top);
    },
    grip: (e: PointerEvent) => {
      drag.current = { x: e.clientX, y: e.clientY, camera };
    },
    drag: (e: PointerEvent) => {
      const from = drag.current;
      if (from) by(from.camera, (from.x - e.clientX) * along, from.y - e.clientY);
    },
    release: () => {
      drag.current = null;
    },
    wheel: (e: WheelEvent<Element>) => {
      const r = e.currentTarget.getBoundingClientRect();
      zoom(across(e.clientX - r.left), e.clientY - r.top, Math.exp(-e.deltaY / 400));
    },
    key: (e: KeyboardEvent) => {
      const act = keys[e.key];
      if (!act) return;
      e.preventDefault();
      act();
    },
  };
}
