import { expect, it } from "vitest";

import { hueName } from "./hueNames";
import { cornersOf, effectOf, pixelsOf, placeOf, PLAIN } from "./words";

it("says where a correction acts", () => {
  const region = {
    corners: [
      [0, 0],
      [1, 0],
      [1, 1],
    ],
    softness: 1,
    outside: true,
  };
  expect(placeOf(PLAIN)).toBe("everywhere");
  expect(placeOf({ ...PLAIN, region })).toBe("outside a region");
  expect(placeOf({ ...PLAIN, colours: { lab: [50, 0, 0], radius: 20, softness: 60 } })).toBe(
    "everywhere, chosen colours",
  );
});

it("says what a correction does", () => {
  expect(effectOf(PLAIN)).toBe("changes nothing yet");
  expect(effectOf({ ...PLAIN, lightness: -12, chroma: 30 })).toBe("lightness −12, chroma +30");
  expect(
    effectOf({
      ...PLAIN,
      curves: {
        master: [
          [0, 0],
          [50, 60],
          [100, 100],
        ],
        channels: {},
      },
    }),
  ).toBe("curve");
});

it("turns a dragged rectangle into corners in percent, and back", () => {
  const corners = cornersOf(
    [
      [100, 50],
      [300, 150],
    ],
    400,
    200,
  );
  expect(corners).toEqual([
    [25, 25],
    [75, 25],
    [75, 75],
    [25, 75],
  ]);
  expect(pixelsOf(corners, 400, 200)[2]).toEqual([300, 150]);
});

it("finds the nearest name of a hue across zero", () => {
  expect(hueName(355)).toBe("magenta");
  expect(hueName(5)).toBe("magenta");
  expect(hueName(28)).toBe("red");
});
