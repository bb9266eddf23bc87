import { describe, expect, it } from "vitest";

import type { Destination, Job, Recipe } from "../api";
import { coloursOf, gridOf, originalLabel, panesOf } from "./layouts";

const recipe = { version: 1, page: 0, source: null, working: null, destination: "x", intent: "perceptual", bpc: true, vivid: null, corrections: [], before: null, ink_rules: null, plates: {}, after: null, delivery: {} } as unknown as Recipe;
const destination = (id: number, name: string) => ({ id, condition: { name }, recipe: { ...recipe, intent: "saturation" } }) as unknown as Destination;
const here = destination(1, "Coated");
const job = { destinations: [here, destination(2, "News"), destination(3, "Satin"), destination(4, "Cotton"), destination(5, "Film")] } as unknown as Job;

describe("layouts", () => {
  it("set the original beside the press view", () => {
    const [left, right] = panesOf({ layout: "pair", job, destination: here, recipe });
    expect([left?.kind, right?.kind]).toEqual(["original", "proof"]);
    expect(left?.label).toBe(originalLabel("srgb"));
    expect(right?.label).toBe("Coated, perceptual");
  });

  it("show four intents of one recipe", () => {
    const panes = panesOf({ layout: "intents", job, destination: here, recipe });
    expect(panes.map((p) => JSON.parse(p.colours).intent)).toEqual(["perceptual", "relative", "saturation", "absolute"]);
    expect(new Set(panes.map((p) => p.key)).size).toBe(4);
  });

  it("show at most four conditions, each with its own recipe, the present one last and as it is now", () => {
    const panes = panesOf({ layout: "conditions", job, destination: here, recipe });
    expect(panes.map((p) => p.destination)).toEqual([2, 3, 4, 1]);
    expect(panes.at(-1)?.colours).toBe(coloursOf(recipe));
    expect(panes[0]?.label).toBe("News, saturation");
  });

  it("set two states side by side, a former one by its number and not by its colours", () => {
    const [left, right] = panesOf({ layout: "states", job, destination: here, recipe, states: [2, "present"] });
    expect(left?.state).toMatch(/^2:/);
    expect(right?.state).toBeUndefined();
    expect(right?.colours).toBe(coloursOf(recipe));
    const changed = { ...here, recipe: { ...recipe, bpc: false } } as Destination;
    expect(panesOf({ layout: "states", job, destination: changed, recipe, states: [2, "present"] })[0]?.state).not.toBe(left?.state);
  });

  it("take as many cells as they need", () => {
    expect(gridOf(1)).toEqual({ columns: 1, rows: 1 });
    expect(gridOf(2)).toEqual({ columns: 2, rows: 1 });
    expect(gridOf(3)).toEqual({ columns: 2, rows: 2 });
    expect(gridOf(4)).toEqual({ columns: 2, rows: 2 });
  });

  it("name only what decides colours", () => {
    expect(Object.keys(JSON.parse(coloursOf(recipe)))).toEqual(["source", "working", "intent", "bpc", "vivid", "corrections", "before", "ink_rules", "plates", "after"]);
  });
});
