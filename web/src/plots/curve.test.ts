import { describe, expect, it } from "vitest";

import { addPoint, curveAt, isStraight, movePoint, removePoint, STRAIGHT } from "./curve";

const LIFTED: [number, number][] = [
  [0, 0],
  [30, 50],
  [100, 100],
];

const EXPECTED = [19.29279, 79.67725, 98.17394] as const;

describe("curve points", () => {
  it("are added where there is room, in order", () => {
    expect(addPoint(STRAIGHT, 40, 60)).toEqual([
      [0, 0],
      [40, 60],
      [100, 100],
    ]);
    expect(addPoint(LIFTED, 30.4, 10)).toBe(LIFTED);
    expect(addPoint(STRAIGHT, 40, 160)[1]).toEqual([40, 100]);
  });

  it("never pass their neighbours, and the ends keep their input", () => {
    expect(movePoint(LIFTED, 1, 250, 20)[1]).toEqual([99, 20]);
    expect(movePoint(LIFTED, 0, 40, 15)[0]).toEqual([0, 15]);
  });

  it("are removed, but not the ends", () => {
    expect(removePoint(LIFTED, 1)).toEqual(STRAIGHT);
    expect(removePoint(LIFTED, 0)).toBe(LIFTED);
  });

  it("know when they change nothing", () => {
    expect(isStraight(STRAIGHT)).toBe(true);
    expect(isStraight(null)).toBe(true);
    expect(isStraight(LIFTED)).toBe(false);
  });
});

describe("the curve between them", () => {
  it("goes through its points and is straight where they are", () => {
    for (const [x, y] of LIFTED) expect(curveAt(LIFTED, x)).toBeCloseTo(y);
    expect(curveAt(STRAIGHT, 37)).toBeCloseTo(37);
  });

  it("agrees with the server's (SciPy's PCHIP) between the points", () => {
    // PchipInterpolator([0, .3, 1], [0, .5, 1])([.1, .6, .9]) * 100
    expect(curveAt(LIFTED, 10)).toBeCloseTo(EXPECTED[0], 2);
    expect(curveAt(LIFTED, 60)).toBeCloseTo(EXPECTED[1], 2);
    expect(curveAt(LIFTED, 90)).toBeCloseTo(EXPECTED[2], 2);
  });

  it("never overshoots", () => {
    const steep: [number, number][] = [
      [0, 0],
      [45, 5],
      [50, 95],
      [100, 100],
    ];
    let before = -1;
    for (let x = 0; x <= 100; x += 0.5) {
      const y = curveAt(steep, x);
      expect(y).toBeGreaterThanOrEqual(before);
      before = y;
    }
  });
});
