import { expect, it } from "vitest";

import type { OutputPolicy, PolicyObject } from "../api";
import { after, before, foundName, NEW_RULE, outcomeName, policyFact, ruleDetail, ruleFor } from "./words";

it("says what a rule is for and what it does", () => {
  expect(ruleFor(NEW_RULE)).toBe("Everything in any space");
  expect(ruleFor({ ...NEW_RULE, objects: "images", space: "RGB" })).toBe("Images in RGB");
  expect(ruleFor({ ...NEW_RULE, space: "spot", spot: "Ternholm Red" })).toBe("Everything in spot “Ternholm Red”");
  expect(ruleDetail(NEW_RULE)).toBe("relative colorimetric, BPC");
  expect(ruleDetail({ ...NEW_RULE, intent: "own", fallback: "perceptual", bpc: false })).toBe("own intent, else perceptual");
  expect(ruleDetail({ ...NEW_RULE, action: "stop" })).toBe("");
});

it("names what was found and where it comes out", () => {
  expect(foundName({ space: "RGB", objects: "images", spot: "" })).toBe("RGB images");
  expect(foundName({ space: "spot", objects: "text and vectors", spot: "Ternholm Red" })).toBe("Spot “Ternholm Red”");
  expect(outcomeName("DeviceCMYK", "Coated")).toBe("Coated");
  expect(outcomeName("stopped", "Coated")).toBe("Stopped");
});

it("shows values before and after, and none where a rule stops", () => {
  const object = { values: [51, -3.25], after: [0, 12.5], action: "convert" } as PolicyObject;
  expect(before(object)).toBe("51 −3.3");
  expect(after(object)).toBe("0 12.5");
  expect(after({ ...object, action: "stop" })).toBe("–");
});

it("sums a policy up", () => {
  expect(policyFact({ rules: [NEW_RULE], tac: 300, tac_action: "enforce", profile_in: false } as unknown as OutputPolicy)).toBe("1 rules, TAC 300 % enforced, profile out");
});
