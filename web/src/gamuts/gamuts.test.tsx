import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { createRef } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";

import type { BodyFigures, Cloud, GamutsReport } from "../api";
import { CloudTable, ordered } from "./CloudTable";
import { GamutTables } from "./GamutTables";
import { beyond, chromaAt, cutOutline, leafOutline, meshOf, reachOf, volumeOf } from "./outline";
import { Plane, SIZE } from "./Plane";

afterEach(cleanup);

/** A cone from white: chroma falls with lightness, and grows around the hues from 0 to 119 tenths. */
const CONE: BodyFigures = {
  volume: 1000,
  darkest: 20,
  lightest: 100,
  most_chroma: 91.9,
  at_lightness: 20,
  at_hue: 357,
  chroma: Array.from({ length: 101 }, (_, l) =>
    Array.from({ length: 120 }, (_, h) => (l < 20 ? 0 : 100 - l + h / 10)),
  ),
};

describe("outlines of a gamut", () => {
  it("are read between the places that are known, around the hues", () => {
    expect(chromaAt(CONE, 50, 0)).toBeCloseTo(50);
    expect(chromaAt(CONE, 50.5, 3)).toBeCloseTo(49.6);
    expect(chromaAt(CONE, 50, 358.5)).toBeCloseTo((61.9 + 50) / 2);
    expect(chromaAt(CONE, 50, -3)).toBeCloseTo(61.9);
    expect(chromaAt(CONE, 10, 0)).toBe(0);
  });
  it("of a cut run around, of a leaf on both sides of grey", () => {
    expect(cutOutline(CONE, 10)).toEqual([]);
    const cut = cutOutline(CONE, 60);
    expect(cut).toHaveLength(120);
    expect(cut[30]?.[0]).toBeCloseTo(0);
    expect(cut[30]?.[1]).toBeCloseTo(43);
    const leaf = leafOutline(CONE, 0);
    expect(leaf[0]).toEqual([0, 20]);
    expect(leaf.some(([c, l]) => l === 50 && Math.abs(c - 50) < 1e-9)).toBe(true);
    expect(leaf.some(([c, l]) => l === 50 && Math.abs(c + 56) < 1e-9)).toBe(true);
  });
  it("tell how far a colour lies beyond, and how wide the plots must be", () => {
    expect(beyond(CONE, [50, 60, 0])).toBeCloseTo(10);
    expect(beyond(CONE, [50, 40, 0])).toBeCloseTo(-10);
    expect(beyond(CONE, [5, 0, 7])).toBeCloseTo(7);
    expect(reachOf([CONE], [])).toBe(100);
    expect(reachOf([CONE], [[50, 0, -130]])).toBe(140);
    expect(reachOf([], [])).toBe(60);
  });
});

describe("a body's mesh", () => {
  const ball: BodyFigures = {
    ...CONE,
    darkest: 20,
    lightest: 80,
    chroma: Array.from({ length: 101 }, (_, l) =>
      Array.from({ length: 120 }, () => Math.sqrt(Math.max(0, 900 - (l - 50) ** 2))),
    ),
  };
  it("encloses the volume, seen from outside", () => {
    const mesh = meshOf(ball);
    expect(volumeOf(mesh) / ((4 / 3) * Math.PI * 30 ** 3)).toBeGreaterThan(0.99);
    expect(volumeOf(mesh) / ((4 / 3) * Math.PI * 30 ** 3)).toBeLessThan(1.0);
  });
  it("is closed: every edge belongs to two triangles", () => {
    const { triangles, lab } = meshOf(ball);
    const edges = new Map<string, number>();
    for (let t = 0; t < triangles.length; t += 3)
      for (const [a, b] of [
        [0, 1],
        [1, 2],
        [2, 0],
      ] as const) {
        const [p, q] = [triangles[t + a] ?? 0, triangles[t + b] ?? 0];
        const key = p < q ? `${p} ${q}` : `${q} ${p}`;
        edges.set(key, (edges.get(key) ?? 0) + 1);
      }
    // Only the rings at the poles are open, and all of their vertices are one point.
    const open = [...edges].filter(([, n]) => n !== 2).flatMap(([k]) => k.split(" ").map(Number));
    expect(new Set(open.map((i) => lab[i]?.map((v) => Math.round(v)).join()))).toEqual(
      new Set(["20,0,0", "80,0,0"]),
    );
  });
});

const SIGNS = {
  of: "list:1",
  name: "Signs",
  names: ["grey", "neon", "red"],
  points: [
    [50, 0, 0],
    [60, 90, 90],
    [45, 60, 40],
  ],
  outside: [0.6],
  away: [[false, true, true]],
  far: [[0, 14.2, 3]],
  nearest: [[]],
} as never as Cloud;

it("lists a cloud's colours by how far they lie outside a gamut, and chooses by keys", () => {
  expect(ordered(SIGNS, 0)).toEqual([1, 2, 0]);
  expect(ordered(SIGNS, null)).toEqual([0, 1, 2]);
  const choose = vi.fn();
  const press = { of: "condition:1", name: "Press", tac: 300, figures: CONE };
  const props = { cloud: SIGNS, bodies: [press], onChoose: choose };
  const { rerender } = render(<CloudTable {...props} chosen={null} />);
  const rows = screen.getByRole("rowgroup", { name: "Colours" });
  fireEvent.keyDown(rows, { key: "ArrowDown" });
  expect(choose).toHaveBeenLastCalledWith(1);
  rerender(<CloudTable {...props} chosen={1} />);
  fireEvent.keyDown(rows, { key: "ArrowDown" });
  expect(choose).toHaveBeenLastCalledWith(2);
  fireEvent.change(screen.getByLabelText("Order of the colours"), { target: { value: "" } });
  fireEvent.keyDown(rows, { key: "ArrowUp" });
  expect(choose).toHaveBeenLastCalledWith(0);
});

it("a click on a dot chooses it, a click beside it only the place", () => {
  const onPick = vi.fn();
  const dot = { place: 4, at: [40, 0] as [number, number], lab: [50, 40, 0], away: false, chosen: true }; // prettier-ignore
  const props = { across: [-100, 100], up: [-100, 100], axes: ["a*", "b*"], outlines: [], marks: null } as never; // prettier-ignore
  const { container } = render(
    <Plane
      {...(props as object as Parameters<typeof Plane>[0])}
      label="Cut"
      svg={createRef()}
      dots={[dot]}
      labAt={(a, b) => [50, a, b]}
      onPoint={vi.fn()}
      onPick={onPick}
    />,
  );
  expect(container.querySelector("[data-chosen]")?.getAttribute("data-chosen")).toBe("4");
  const plot = screen.getByRole("img", { name: "Cut" });
  plot.getBoundingClientRect = () => ({ left: 0, top: 0, width: SIZE, height: SIZE }) as DOMRect;
  // a* 40 lies at 70 % of the way between the pads of 34 units.
  const x = 34 + 0.7 * (SIZE - 68);
  fireEvent.click(plot, { clientX: x + 4, clientY: SIZE / 2 });
  expect(onPick.mock.lastCall?.[1]?.place).toBe(4);
  fireEvent.click(plot, { clientX: x + 9, clientY: SIZE / 2 });
  expect(onPick.mock.lastCall?.[1]).toBeNull();
});

it("a click in a plane gives the colour of its place, beside it nothing", () => {
  const onPick = vi.fn();
  const props = { across: [-100, 100], up: [0, 100], axes: ["C*", "L*"], outlines: [], dots: [], marks: null } as never; // prettier-ignore
  render(
    <Plane
      {...(props as object as Parameters<typeof Plane>[0])}
      label="Leaf"
      svg={createRef()}
      labAt={(c, l) => [l, c, 0]}
      onPoint={vi.fn()}
      onPick={onPick}
    />,
  );
  const plot = screen.getByRole("img", { name: "Leaf" });
  plot.getBoundingClientRect = () => ({ left: 0, top: 0, width: SIZE, height: SIZE }) as DOMRect;
  fireEvent.click(plot, { clientX: SIZE / 2, clientY: SIZE / 2 });
  expect(onPick).toHaveBeenLastCalledWith([50, 0, 0], null);
  fireEvent.click(plot, { clientX: 2, clientY: 2 });
  expect(onPick).toHaveBeenCalledTimes(1);
});

it("figures stand with their lines, a picture's share, and both ways of a pair", () => {
  const body = (name: string, tac: number | null) => ({ of: name, name, tac, figures: CONE });
  const figures = (coverage: number) => ({
    coverage,
    intersection: 5,
    de00_mean: 1.25,
    de00_p95: 6,
  });
  const report: GamutsReport = {
    version: 1,
    sight: "paper",
    bodies: [body("Press", 320), { ...body("One ink", null), figures: null }],
    pairs: [
      { body: 0, on: 1, figures: figures(0.812) },
      { body: 1, on: 0, figures: figures(1) },
    ],
    clouds: [{ of: "picture:1", name: "Moon", points: [], outside: [0.25, 0], away: [] }],
  } as never;
  render(<GamutTables report={report} />);
  const [first, second] = screen.getAllByRole("table");
  expect(first?.textContent).toContain("Press, TAC 320 %");
  expect(first?.textContent).toContain("25.0 %");
  expect(first?.textContent).toContain("no volume");
  expect(second?.textContent).toContain("81.2 %");
  expect(second?.textContent).toContain("100 %");
});
