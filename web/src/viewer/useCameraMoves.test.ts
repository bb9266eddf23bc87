import { renderHook } from "@testing-library/react";
import { expect, it, vi } from "vitest";

import { useCameraMoves } from "./useCameraMoves";

const picture = { width: 2000, height: 1000 };
const pane = { width: 500, height: 400 };
const camera = { cx: 900, cy: 500, scale: 2 };

const moves = (mirrored: boolean) => {
  const onCamera = vi.fn();
  const { result } = renderHook(() => useCameraMoves(camera, picture, pane, onCamera, mirrored));
  return { result, onCamera };
};
const at = (clientX: number, clientY: number) => ({
  clientX,
  clientY,
  currentTarget: { getBoundingClientRect: () => ({ left: 0, top: 0 }) } as Element,
});

it.each([
  [false, 900 + 100, -30],
  [true, 900 - 100, 30],
])("finds and drags the point under the pointer, mirrored %s", (mirrored, x, dragged) => {
  const { result, onCamera } = moves(mirrored);
  expect(result.current.place(at(450, 200))).toEqual([x, 500]);
  result.current.grip(at(100, 100) as never);
  result.current.drag(at(160, 100) as never);
  expect(onCamera).toHaveBeenCalledWith({ ...camera, cx: 900 + dragged });
  result.current.key({ key: "ArrowRight", preventDefault: () => undefined } as never);
  expect(onCamera).toHaveBeenLastCalledWith({ ...camera, cx: mirrored ? 876 : 924 });
});
