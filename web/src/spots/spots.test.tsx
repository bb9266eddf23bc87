import { describe, expect, it } from "vitest";

import { buildText, typedBuild } from "../plots/builds";
import { ofScreen, readSought, writeSought } from "./useSought";

describe("what is sought stands in the address", () => {
  it.each([
    "",
    "list=3",
    "colour=50%2C-20%2C-35&inks=2&gain=0&least=5&white=relative&fine=3.5&without=1%2C4",
  ])("and comes back from it: %s", (address) => {
    expect(writeSought(readSought(new URLSearchParams(address))).toString()).toBe(address);
  });

  it("and nonsense in it is passed over", () => {
    const found = readSought(
      new URLSearchParams("list=-2&inks=9&gain=x&white=blue&fine=0&without=1,b"),
    );
    expect(found).toEqual({
      list: null,
      colour: "",
      inks: 3,
      gain: 0.5,
      least: null,
      white: "absolute",
      fine: 2,
      without: [1],
    });
  });
});

describe("typed colours", () => {
  it.each([
    ["50 -20 -35", false],
    ["lch 50 40 210", false],
    ["#08c", true],
    [" 0080c8 ", true],
    ["RGB(0, 128, 200)", true],
  ])("%s of the screen: %s", (text, screen) => {
    expect(ofScreen(text)).toBe(screen);
  });
});

describe("typed builds", () => {
  it.each([
    ["C 80 Y 20", { C: 80, Y: 20 }],
    ["c80, y20%", { C: 80, Y: 20 }],
    ["K 7.5", { K: 7.5 }],
    ["C 101", null],
    ["C 10 C 20", null],
    ["80 20", null],
    ["C", null],
    ["", null],
  ])("%s", (text, inks) => {
    expect(typedBuild(text)).toEqual(inks);
  });

  it("are read as they are shown", () => {
    const inks = { C: 98, M: 63, K: 7 };
    expect(typedBuild(buildText(inks))).toEqual(inks);
  });
});
