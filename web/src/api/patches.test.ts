import { describe, expect, it } from "vitest";

import {
  alike,
  patchBetween,
  patched,
  pathsOf,
  POLICY_KEYS,
  RECIPE_KEYS,
  valueAt,
} from "./patches";

const RECIPE = {
  intent: "perceptual",
  ink_rules: { tac: 300, limits: { C: 80, K: 90 }, black: { method: "gcr", strength: 50 } },
  plates: { K: { minimum: 3 } },
  corrections: [{ lightness: 1 }],
  delivery: { bits: 16, films: null },
};

describe("patches", () => {
  it("change a build as a whole, and take one out by its name", () => {
    const policy = { builds: { Sea: { C: 80, Y: 20 }, Flag: { M: 90 } } };
    const next = { builds: { Sea: { C: 70, Y: 20 } } };
    const found = patchBetween(policy, next, POLICY_KEYS);
    expect(found).toEqual({ builds: { Sea: { C: 70, Y: 20 }, Flag: null } });
    expect(patched(policy, found, POLICY_KEYS)).toEqual(next);
    const other = { builds: { ...policy.builds, Sea: { K: 5 } } };
    expect(patched(policy, patchBetween(policy, other, POLICY_KEYS), POLICY_KEYS)).toEqual(other);
  });

  it.each([
    [{ intent: "relative" }, { intent: "relative" }],
    [{ intent: "perceptual" }, {}],
    [{ ink_rules: { ...RECIPE.ink_rules, tac: 280 } }, { ink_rules: { tac: 280 } }],
    [
      { ink_rules: { ...RECIPE.ink_rules, limits: { K: 90 } } },
      { ink_rules: { limits: { C: null } } },
    ],
    [{ ink_rules: { ...RECIPE.ink_rules, black: null } }, { ink_rules: { black: null } }],
    [{ ink_rules: null }, { ink_rules: null }],
    [{ plates: {} }, { plates: { K: null } }],
    [{ corrections: [] }, { corrections: [] }],
    [{ delivery: { bits: 8 } }, { delivery: { bits: 8 } }],
    [
      { delivery: { films: { ruling: 65, angles: { C: 15 } } } },
      { delivery: { films: { ruling: 65, angles: { C: 15 } } } },
    ],
  ])("hold what changes and nothing else, %#", (next, patch) => {
    const found = patchBetween(RECIPE, next, RECIPE_KEYS);
    expect(found).toEqual(patch);
    const whole = patched(RECIPE, found, RECIPE_KEYS);
    for (const [key, value] of Object.entries(next))
      expect(whole[key as keyof typeof whole]).toEqual(
        key === "delivery" ? { ...RECIPE.delivery, ...(value as object) } : value,
      );
    expect(RECIPE.plates).toEqual({ K: { minimum: 3 } });
  });

  it("are laid over an object that was not there", () => {
    expect(patched({ a: null }, { a: { b: 1 } })).toEqual({ a: { b: 1 } });
  });

  it("name their fields", () => {
    expect(pathsOf({ a: { b: 1, c: {} }, d: [1] })).toEqual(["a.b", "a.c", "d"]);
    expect(valueAt(RECIPE, "ink_rules.black.strength")).toBe(50);
    expect(valueAt(RECIPE, "vivid.strength")).toBeUndefined();
  });
});

it("finds two values alike whatever the order of their keys, and no others", () => {
  expect(alike({ a: 1, b: [{ c: 2, d: 3 }] }, { b: [{ d: 3, c: 2 }], a: 1 })).toBe(true);
  expect(alike({ a: 1 }, { a: 1, b: 0 })).toBe(false);
  expect(alike([1, 2], [1, 2, 3])).toBe(false);
  expect(alike([1, 2], [2, 1])).toBe(false);
  expect(alike({ a: null }, {})).toBe(false);
});
