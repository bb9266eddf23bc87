import { expect, it } from "vitest";

import { labColour } from "./labColour";

it.each([
  [[100, 0, 0], "rgb(255 255 255)"],
  [[0, 0, 0], "rgb(0 0 0)"],
  [[53.59, 0, 0], "rgb(128 128 128)"],
  // sRGB red under D50 (IEC 61966-2-1, Bradford).
  [[54.29, 80.8, 69.89], "rgb(255 0 0)"],
])("turns Lab %j into %s", (lab, css) => {
  const code = (text: string) => text.match(/\d+/g)?.map(Number) ?? [];
  code(labColour(lab)).forEach((v, i) =>
    expect(Math.abs(v - (code(css)[i] ?? 0))).toBeLessThanOrEqual(1),
  );
});
