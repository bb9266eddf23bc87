import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { CurveEditor } from "./CurveEditor";

afterEach(cleanup);

const POINTS: [number, number][] = [
  [0, 0],
  [40, 60],
  [100, 100],
];

function editor() {
  const onRest = vi.fn();
  render(
    <CurveEditor
      label="Curve of K"
      points={POINTS}
      colour="#000"
      onLive={() => undefined}
      onRest={onRest}
    />,
  );
  return { onRest, middle: screen.getByRole("slider", { name: "Point 2 of Curve of K" }) };
}

it("moves a point by arrow keys, in larger steps with Shift", () => {
  const { onRest, middle } = editor();
  fireEvent.keyDown(middle, { key: "ArrowUp" });
  expect(onRest).toHaveBeenLastCalledWith([
    [0, 0],
    [40, 60.5],
    [100, 100],
  ]);
  fireEvent.keyDown(middle, { key: "ArrowRight", shiftKey: true });
  expect(onRest).toHaveBeenLastCalledWith([
    [0, 0],
    [45, 60],
    [100, 100],
  ]);
});

it("removes an inner point but never an end", () => {
  const { onRest, middle } = editor();
  fireEvent.keyDown(middle, { key: "Delete" });
  expect(onRest).toHaveBeenLastCalledWith([
    [0, 0],
    [100, 100],
  ]);
  fireEvent.keyDown(screen.getByRole("slider", { name: "Point 1 of Curve of K" }), {
    key: "Delete",
  });
  expect(onRest).toHaveBeenLastCalledWith(POINTS);
});

it("tells a point's values to those who do not see the plot", () => {
  const { middle } = editor();
  expect(middle.getAttribute("aria-valuetext")).toBe("40 becomes 60");
});
