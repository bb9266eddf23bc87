import { describe, expect, it } from "vitest";

import type { PolicyRule } from "../api";
import { inserted, unreachable } from "./reach";
import { NEW_RULE } from "./words";

const rule = (
  objects: PolicyRule["objects"],
  space: PolicyRule["space"],
  spot = "",
): PolicyRule => ({ ...NEW_RULE, objects, space, spot });

describe("rules that can never act", () => {
  it.each([
    [
      [rule("all", "all"), rule("images", "RGB")],
      [[], [1]],
    ],
    [
      [rule("images", "RGB"), rule("all", "RGB"), rule("all", "all")],
      [[], [], []],
    ],
    [
      [rule("images", "RGB"), rule("vectors", "RGB"), rule("shadings", "RGB"), rule("all", "RGB")],
      [[], [], [], [1, 2, 3]],
    ],
    [
      [rule("all", "spot", "Red"), rule("all", "spot"), rule("all", "spot", "Red")],
      [[], [], [1]],
    ],
    [
      [rule("all", "spot", "Red"), rule("images", "spot", "Blue")],
      [[], []],
    ],
    [
      [rule("all", "spot"), rule("images", "spot", "Blue")],
      [[], [1]],
    ],
    [
      [
        rule("all", "RGB"),
        rule("all", "CMYK"),
        rule("all", "grey"),
        rule("all", "Lab"),
        rule("all", "all"),
      ],
      [[], [], [], [], []],
    ],
  ])("are found, %#", (rules, found) => {
    expect(unreachable(rules)).toEqual(found);
  });
});

describe("rules for parts of what others are for", () => {
  const part = (more: Partial<PolicyRule>): PolicyRule => ({ ...rule("text", "all"), ...more });
  it.each([
    ["text after text and vectors", [rule("vectors", "all"), part({})], [[], [1]]],
    ["text and vectors after text", [part({}), rule("vectors", "all")], [[], []]],
    ["line art after images", [rule("images", "RGB"), rule("line art", "RGB")], [[], [1]]],
    ["all text after small text", [part({ below: 6 }), part({})], [[], []]],
    ["small after all text", [part({}), part({ below: 6 })], [[], [1]]],
    ["smaller after small", [part({ below: 6 }), part({ below: 5 })], [[], [1]]],
    ["larger after small", [part({ below: 5 }), part({ below: 6 })], [[], []]],
    ["all pages after some", [part({ pages: "1" }), part({})], [[], []]],
    ["the same pages again", [part({ pages: "1" }), part({ pages: "1" })], [[], [1]]],
  ])("%s", (_, rules, found) => {
    expect(unreachable(rules)).toEqual(found);
  });
});

describe("a new rule", () => {
  it("stands above the catch-all, below what is narrower", () => {
    const rules = [rule("images", "RGB"), rule("all", "CMYK"), rule("all", "all")];
    const next = inserted(rules, rule("vectors", "RGB"));
    expect(next.map((r) => `${r.objects} ${r.space}`)).toEqual([
      "images RGB",
      "all CMYK",
      "vectors RGB",
      "all all",
    ]);
    expect(unreachable(next).flat()).toEqual([]);
  });

  it("stands last where nothing takes its objects", () => {
    expect(inserted([rule("images", "RGB")], rule("vectors", "RGB"))[1]?.objects).toBe("vectors");
    expect(inserted([], rule("all", "all"))).toHaveLength(1);
  });

  it("stands above the rule for all that it is a part of", () => {
    expect(
      inserted([rule("all", "RGB"), rule("all", "all")], rule("images", "RGB")).map(
        (r) => r.objects,
      ),
    ).toEqual(["images", "all", "all"]);
  });
});
