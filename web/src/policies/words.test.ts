import { expect, it } from "vitest";

import type { OutputPolicy, PolicyObject } from "../api";
import {
  after,
  before,
  foundName,
  NEW_RULE,
  outcomeName,
  policyFact,
  ruleDetail,
  ruleFor,
} from "./words";

it("says what a rule is for and what it does", () => {
  expect(ruleFor({ ...NEW_RULE, objects: "all", space: "all" })).toBe("Everything in any space");
  expect(ruleFor(NEW_RULE)).toBe("Images in RGB");
  expect(ruleFor({ ...NEW_RULE, objects: "images", space: "RGB" })).toBe("Images in RGB");
  expect(ruleFor({ ...NEW_RULE, objects: "all", space: "spot", spot: "Ternholm Red" })).toBe(
    "Everything in spot “Ternholm Red”",
  );
  expect(ruleDetail(NEW_RULE)).toBe("relative colorimetric, BPC");
  expect(ruleDetail({ ...NEW_RULE, intent: "own", fallback: "perceptual", bpc: false })).toBe(
    "own intent, else perceptual",
  );
  expect(ruleDetail({ ...NEW_RULE, action: "stop" })).toBe("");
});

it("names what was found and where it comes out", () => {
  expect(foundName({ space: "RGB", objects: "images", spot: "" })).toBe("RGB images");
  expect(foundName({ space: "spot", objects: "text and vectors", spot: "Ternholm Red" })).toBe(
    "Spot “Ternholm Red”",
  );
  expect(outcomeName("DeviceCMYK", "Coated")).toBe("Coated");
  expect(outcomeName("stopped", "Coated")).toBe("Stopped");
});

it("names those of many inks that print, and no more", () => {
  const inks = ["Cyan", "Magenta", "Yellow", "Black", "Orange", "Green", "Violet"];
  const o = { family: "RGB", spot: [], action: "convert", outcome: "DeviceN" } as never;
  const of = (values: number[]) => after({ ...(o as object), after: values } as never, inks);
  expect(of([0, 12.5, 0, 3, 80, 0, 0])).toBe("M 12.5  K 3  O 80");
  expect(of([0, 0, 0, 0, 0, 0, 0])).toBe("no ink");
  expect(
    after(
      { ...(o as object), outcome: "black only", after: [0, 0, 0, 60, 0, 0, 0] } as never,
      inks,
    ),
  ).toBe("K 60");
  expect(outcomeName("DeviceN", "Polyester")).toBe("Polyester");
});

it("shows values before and after, and none where a rule stops", () => {
  const lab = {
    family: "Lab",
    spot: [] as string[],
    values: [51, -3.25, 0],
    after: [0, 12.5, 0, 3],
    action: "convert",
    outcome: "DeviceCMYK",
  } as unknown as PolicyObject;
  expect(before(lab)).toBe("L* 51  a* −3.3  b* 0");
  expect(after(lab)).toBe("C 0  M 12.5  Y 0  K 3");
  expect(after({ ...lab, after: [51, -3.25, 0], outcome: "Lab", action: "leave" })).toBe(
    "L* 51  a* −3.3  b* 0",
  );
  expect(after({ ...lab, action: "stop" })).toBe("–");
  const spot = {
    ...lab,
    family: "spot",
    spot: ["Ternholm Red"],
    values: [80],
    after: [80],
    outcome: "spot Ternholm Red",
    action: "keep spot",
  } as PolicyObject;
  expect([before(spot), after(spot)]).toEqual(["Ternholm Red 80", "Ternholm Red 80"]);
  const rgb = { ...lab, family: "RGB", values: [255, 0, 10] } as PolicyObject;
  expect(before(rgb)).toBe("R 255  G 0  B 10");
  expect(after({ ...rgb, after: [40], outcome: "DeviceGray" })).toBe("Grey 40");
});

it("sums a policy up", () => {
  expect(
    policyFact({
      rules: [NEW_RULE],
      tac: 300,
      tac_action: "enforce",
      profile_in: false,
    } as unknown as OutputPolicy),
  ).toBe("1 rules, TAC 300 % enforced, profile out");
});
