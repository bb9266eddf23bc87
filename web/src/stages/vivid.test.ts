import { expect, it } from "vitest";

import { gained } from "./Vivid";

it("says what the print gains by a widened source", () => {
  const said = gained({ vividness: 81.4, vividness_plain: 77.1 });
  expect(said).toContain("keeps 81 % of the vividness");
  expect(said).toContain("4.3 % more than without");
});

it("says that the press is at its end where nothing is gained", () => {
  expect(gained({ vividness: 77.4, vividness_plain: 77.1 })).toContain("gains nothing");
  expect(gained({ vividness: 70, vividness_plain: 77.1 })).toContain("gains nothing");
});

it("has nothing to say of a picture without vivid colours", () => {
  expect(gained({ vividness: null, vividness_plain: null })).toBe(
    "No colour of the picture is vivid.",
  );
});
