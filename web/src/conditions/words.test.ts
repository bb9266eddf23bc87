import { expect, it } from "vitest";

import { answersTo } from "./words";

it("searches conditions by press, medium and process", () => {
  const condition = {
    name: "House",
    printer: "North hall",
    medium: "Canvas",
    process: "screen",
    profile: { description: "P", colour_space: "CMYK" },
  } as never;
  expect(answersTo(condition, "north canvas")).toBe(true);
  expect(answersTo(condition, "screen printing")).toBe(true);
  expect(answersTo(condition, "offset")).toBe(false);
});
