import { expect, it } from "vitest";

import { pressPlate } from "./plates";

const names = ["C", "M", "Y", "K"];

it("shows the pressed plate alone first", () => {
  expect(pressPlate(names, null, "M")).toEqual(["M"]);
});

it("adds further plates in the order of printing", () => {
  expect(pressPlate(names, ["K"], "C")).toEqual(["C", "K"]);
});

it("takes plates away, and shows all again when none or all are left", () => {
  expect(pressPlate(names, ["C", "K"], "C")).toEqual(["K"]);
  expect(pressPlate(names, ["K"], "K")).toBeNull();
  expect(pressPlate(names, ["C", "M", "Y"], "K")).toBeNull();
});
