import { act, renderHook } from "@testing-library/react";
import { expect, it, vi } from "vitest";

import type { Tool } from "./tools";
import { useDrawing } from "./useDrawing";

function drawing(kind: Tool["kind"]) {
  const onDone = vi.fn();
  const stop = vi.fn();
  const { result } = renderHook(() => useDrawing({ kind, onDone }, 1, stop));
  return { onDone, stop, result };
}

it("a rectangle is dragged from corner to corner", () => {
  const { onDone, stop, result } = drawing("rectangle");
  act(() => void result.current.press([10, 10]));
  act(() => result.current.move([60, 40]));
  expect(result.current.places).toEqual([
    [10, 10],
    [60, 40],
  ]);
  act(() => void result.current.release([60, 40]));
  expect(onDone).toHaveBeenCalledWith([
    [10, 10],
    [60, 40],
  ]);
  expect(stop).toHaveBeenCalledOnce();
});

it("a click alone is no rectangle", () => {
  const { onDone, result } = drawing("rectangle");
  act(() => void result.current.press([10, 10]));
  act(() => void result.current.release([12, 11]));
  expect(onDone).not.toHaveBeenCalled();
});

it("a polygon closes at its first corner or on Enter", () => {
  for (const close of ["click", "enter"]) {
    const { onDone, result } = drawing("polygon");
    for (const at of [
      [0, 0],
      [50, 0],
      [50, 50],
    ] as [number, number][])
      act(() => void result.current.press(at));
    if (close === "click") act(() => void result.current.press([3, 2]));
    else act(() => result.current.finish());
    expect(onDone).toHaveBeenCalledWith([
      [0, 0],
      [50, 0],
      [50, 50],
    ]);
  }
});

it("two corners make no polygon", () => {
  const { onDone, result } = drawing("polygon");
  act(() => void result.current.press([0, 0]));
  act(() => void result.current.press([50, 0]));
  act(() => result.current.finish());
  expect(onDone).not.toHaveBeenCalled();
});

it("without a tool nothing is taken", () => {
  const { result } = renderHook(() => useDrawing(null, 1, () => undefined));
  expect(result.current.press([1, 1])).toBe(false);
});
