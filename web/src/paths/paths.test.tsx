import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import type { DifferenceFigures as Figures, Followed, FollowedRow, PathStep } from "../api";
import { placed, reach } from "./Arrows";
import { DeviceBar } from "./DeviceBar";
import { DifferenceFigures } from "./DifferenceFigures";
import { between, centres, firstRegion, within } from "./region";
import { RowEditor, typedNumbers } from "./RowEditor";
import { said } from "./RowTable";
import { markAt } from "./StepPane";
import { Steps } from "./Steps";
import { afterRemoval, firstStep, moved, newStep, stepCode, stepOf } from "./steps";
import { readState, writeState } from "./usePath";

afterEach(cleanup);

const LAB = newStep("lab", "");
const PRESS = { ...newStep("condition", "4"), intent: "absolute", bpc: false } as PathStep;

it("keeps everything that decides the page in its address", () => {
  const state = {
    steps: [LAB, PRESS, newStep("profile", "srgb")],
    list: 7,
    job: null,
    view: "absolute" as const,
    first: 1,
    second: 1,
    formula: "CMC" as const,
    kept: 3,
  };
  expect(readState(writeState(state))).toEqual(state);
  expect(stepOf(stepCode(PRESS))).toEqual(PRESS);
});

it("compares the first step with the last where an address says nothing", () => {
  const found = readState(
    new URLSearchParams("list=1&step=lab::relative&step=condition:2:perceptual%2B"),
  );
  expect([found.first, found.second, found.view, found.formula]).toEqual([0, 1, "paper", "2000"]);
  expect(found.steps[1]).toEqual({ kind: "condition", ref: "2", intent: "perceptual", bpc: true });
  const odd = readState(
    new URLSearchParams("list=-1&step=x:y:relative&step=lab::vivid&from=9&to=x"),
  );
  expect([odd.list, odd.steps, odd.first, odd.second]).toEqual([null, [], 0, 0]);
});

it("begins with what takes the colours of a space", () => {
  expect(firstStep("Lab", 2).kind).toBe("lab");
  expect(firstStep("RGB", 2).ref).toBe("srgb");
  expect(firstStep("Grey", 2).ref).toBe("grey");
  expect(firstStep("CMYK", 2)).toMatchObject({ kind: "condition", ref: "2" });
});

it("moves steps by one place and never off the end", () => {
  const steps = [LAB, PRESS];
  expect(moved(steps, 0, 1)).toEqual([PRESS, LAB]);
  expect(moved(steps, 1, 1)).toBe(steps);
  expect(moved(steps, 0, -1)).toBe(steps);
});

it("keeps comparing the same steps when another is taken out", () => {
  expect(afterRemoval(2, 1, 2)).toBe(1);
  expect(afterRemoval(0, 1, 2)).toBe(0);
  expect(afterRemoval(2, 2, 2)).toBe(1);
});

it("draws a region in any direction and holds it inside the picture", () => {
  const drawn = { ...firstRegion(1000, 800), ...between([900, 700], [400, 300]) };
  expect(drawn).toMatchObject({ x: 400, y: 300, width: 500, height: 400 });
  expect(within({ ...drawn, x: 800, y: -20 }, 1000, 800)).toMatchObject({ x: 500, y: 0 });
  expect(within({ ...drawn, width: 0, height: 9000 }, 1000, 800)).toMatchObject({
    width: 1,
    height: 800,
    y: 0,
  });
});

it("places marks as the server does, in the middle of their cells", () => {
  const region = { x: 10, y: 20, width: 40, height: 20, columns: 2, rows: 2, mark: 3 };
  expect(centres(region)).toEqual([
    [20, 25],
    [40, 25],
    [20, 35],
    [40, 35],
  ]);
});

const ROW: FollowedRow = {
  row: 0,
  name: "leaf",
  given: [45, -40, 30],
  values: [
    [45, -40, 30],
    [80, 10, 100, 5],
  ],
  lab: [
    [45, -40, 30],
    [47, -30, 28],
  ],
  difference: 4.2,
  place: null,
};

it("says a colour in numbers, in Lab or in LCh", () => {
  expect(said(ROW, 1, "numbers")).toBe("80.0\u200210.0\u2002100.0\u20025.0");
  expect(said(ROW, 1, "lab")).toBe("47.0\u2002−30.0\u200228.0");
  expect(said(ROW, 0, "lch")).toBe("45.0\u200250.0\u2002143.1");
  expect(said({ ...ROW, lab: [null, null] }, 1, "lab")).toBe(said(ROW, 1, "numbers"));
});

it("reads typed numbers as people write them, and only as many as a row has", () => {
  expect(typedNumbers("45 −40 30.5", 3)).toEqual([45, -40, 30.5]);
  expect(typedNumbers("45, -40, 30", 3)).toEqual([45, -40, 30]);
  expect(typedNumbers("45,5; -40; 30", 3)).toEqual([45.5, -40, 30]);
  for (const wrong of ["45 -40", "45 -40 30 1", "45 x 30", ""])
    expect(typedNumbers(wrong, 3)).toBeNull();
});

it("changes a row where it stands, and leaves it by Escape", async () => {
  const put = vi.fn();
  const leave = vi.fn();
  render(
    <RowEditor row={ROW} columns={["L*", "a*", "b*"]} busy={false} onPut={put} onLeave={leave} />,
  );
  const numbers = screen.getByLabelText("Numbers of the row: L*, a*, b*");
  fireEvent.change(numbers, { target: { value: "45 -40" } });
  expect(screen.getByRole("button", { name: "Put" })).toHaveProperty("disabled", true);
  fireEvent.submit(screen.getByRole("form", { name: "Change leaf" }));
  expect(put).not.toHaveBeenCalled();
  fireEvent.change(numbers, { target: { value: "46 -41 31" } });
  fireEvent.submit(screen.getByRole("form", { name: "Change leaf" }));
  await waitFor(() => expect(put).toHaveBeenCalledWith({ name: "leaf", values: [46, -41, 31] }));
  fireEvent.keyDown(numbers, { key: "Escape" });
  expect(leave).toHaveBeenCalledOnce();
});

it("finds the mark nearest to a click, and none where none is near", () => {
  const at = (row: number, place: [number, number] | null) => ({ ...ROW, row, place });
  const marks = [at(0, [10, 10]), at(1, [14, 10]), at(2, null)];
  expect(markAt(marks, [13, 10], 5)?.row).toBe(1);
  expect(markAt(marks, [11, 10], 5)?.row).toBe(0);
  expect(markAt(marks, [40, 10], 5)).toBeNull();
});

it("goes through the bar by keys and says what the chosen colour became", () => {
  const choose = vi.fn();
  const bar = { ...ROW, name: "255 0 0" };
  render(
    <DeviceBar
      label="Outermost colours"
      rows={[bar, { ...bar, row: 1, name: "0 255 0" }]}
      step={1}
      height={200}
      chosen={0}
      onChoose={choose}
    />,
  );
  const box = screen.getByRole("listbox", { name: "Outermost colours" });
  fireEvent.keyDown(box, { key: "ArrowUp" });
  fireEvent.keyDown(box, { key: "ArrowDown" });
  expect(choose.mock.calls).toEqual([[0], [1]]);
  expect(screen.getAllByRole("option").map((o) => o.getAttribute("aria-selected"))).toEqual([
    "true",
    "false",
  ]);
});

it("draws planes that hold every colour", () => {
  expect(placed([50, 30, -40], "ab")).toEqual([30, -40]);
  expect(placed([50, 30, -40], "cl")).toEqual([50, 50]);
  expect(reach([[30, -61]], "ab")).toBe(70);
  expect(reach([], "ab")).toBe(20);
  expect(reach([[12, 100]], "cl")).toBe(20);
});

const FIGURES: Figures = {
  count: 4,
  mean: 2.5,
  median: 2,
  p95: 4.9,
  greatest: 5,
  least: 1,
  deviation: 1.5,
  best90: 2.1,
  thresholds: [1, 2],
  shares: [0.25, 0.5],
  histogram: { edges: [0, 2.5, 5], counts: [3, 1] },
  worst: [],
};

it("says the figures and changes a threshold", () => {
  const change = vi.fn();
  render(<DifferenceFigures figures={FIGURES} formula="2000" onThresholds={change} />);
  expect(screen.queryByTestId("ink-of-steps")).toBeNull();
  expect(screen.getByRole("row", { name: /^mean/ }).textContent).toBe("mean2.50");
  expect(screen.getByRole("group", { name: "Thresholds" }).textContent).toContain("25.0 %");
  const field = screen.getByLabelText("Threshold 2");
  fireEvent.change(field, { target: { value: "3,5" } });
  fireEvent.blur(field);
  expect(change).toHaveBeenCalledWith([1, 3.5]);
  // A threshold stays between its neighbours.
  fireEvent.change(field, { target: { value: "0.5" } });
  fireEvent.blur(field);
  expect(change).toHaveBeenLastCalledWith([1, 1.01]);
});

it("says what of the ink is saved, or needed more", () => {
  const ink = {
    first_mean: 180,
    second_mean: 153,
    first_most: 310,
    second_most: 260,
    saved: 0.15,
  };
  const shown = (saved: number) => (
    <DifferenceFigures
      figures={FIGURES}
      ink={{ ...ink, saved }}
      formula="2000"
      onThresholds={vi.fn()}
    />
  );
  const { rerender } = render(shown(0.15));
  const said = screen.getByTestId("ink-of-steps");
  expect(said.textContent).toBe("Ink 180 to 153 % in the mean, most 310 to 260 %: 15.0 % saved");
  rerender(shown(-0.02));
  expect(said.textContent).toContain("2.0 % more");
});

const walked = (coloured: boolean): Followed["steps"][number] => ({
  name: "Press",
  kind: "device",
  space: "CMYK",
  columns: ["C", "M", "Y", "K"],
  coloured,
});

it("lists the steps with the chosen colour and changes how colours come into one", () => {
  const change = vi.fn();
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Steps
        steps={[LAB, PRESS]}
        first={0}
        second={1}
        walked={[walked(true), walked(false)]}
        row={ROW}
        picture={null}
        onChange={change}
      />
    </QueryClientProvider>,
  );
  const second = screen.getByRole("listitem", { name: "Step 2" });
  expect(second.textContent).toContain("80.0\u200210.0\u2002100.0\u20025.0");
  // Nothing says what the numbers of the second step mean, so that it cannot be compared.
  expect(screen.getByRole("radio", { name: "To step 2, Press" })).toHaveProperty("disabled", true);
  // The absolute intent knows no compensation.
  expect(screen.getByLabelText("BPC into step 2")).toHaveProperty("disabled", true);
  fireEvent.change(screen.getByLabelText("Intent into step 2"), {
    target: { value: "perceptual" },
  });
  expect(change).toHaveBeenCalledWith({ steps: [LAB, { ...PRESS, intent: "perceptual" }] });
  fireEvent.click(screen.getByLabelText("Take step 1 out"));
  expect(change).toHaveBeenLastCalledWith({ steps: [PRESS], first: 0, second: 0 });
  fireEvent.click(screen.getByRole("radio", { name: "To step 1, Press" }));
  expect(change).toHaveBeenLastCalledWith({ second: 0 });
});
