import { expect, it } from "vitest";

import { answersTo, inksOf } from "./words";

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

it("says what a profile prints with", () => {
  const of = (colour_space: string, names: string[]) =>
    inksOf({ colour_space, inks: { channels: names.map((name) => ({ name })) } } as never);
  expect(of("CMYK", ["C", "M", "Y", "K"])).toBe("CMYK");
  expect(of("GRAY", [])).toBe("one ink");
  expect(of("1CLR", ["Brick"])).toBe("1 ink: Brick");
  expect(of("2CLR", ["Brick", "K"])).toBe("2 inks: K, Brick");
  expect(of("6CLR", ["C", "M", "Y", "K", "Orange", "Green"])).toBe(
    "6 inks: C M Y K, Orange, Green",
  );
});
