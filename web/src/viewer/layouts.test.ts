import { describe, expect, it } from "vitest";

import type { Destination, Job, Recipe } from "../api";
import { coloursOf, gridOf, ORIGINAL_LABEL, panesOf } from "./layouts";

const recipe = { version: 1, source: null, destination: "x", intent: "perceptual", bpc: true, ink_rules: null, delivery: {} } as unknown as Recipe;
const destination = (id: number, name: string) => ({ id, condition: { name }, recipe: { ...recipe, intent: "saturation" } }) as unknown as Destination;
const here = destination(1, "Coated");
const job = { destinations: [here, destination(2, "News"), destination(3, "Satin"), destination(4, "Cotton"), destination(5, "Film")] } as unknown as Job;

describe("layouts", () => {
  it("set the original beside the press view", () => {
    const [left, right] = panesOf("pair", job, here, recipe);
    expect([left?.kind, right?.kind]).toEqual(["original", "proof"]);
    expect(left?.label).toBe(ORIGINAL_LABEL);
    expect(right?.label).toBe("Coated, perceptual");
  });

  it("show four intents of one recipe", () => {
    const panes = panesOf("intents", job, here, recipe);
    expect(panes.map((p) => JSON.parse(p.colours).intent)).toEqual(["perceptual", "relative", "saturation", "absolute"]);
    expect(new Set(panes.map((p) => p.key)).size).toBe(4);
  });

  it("show at most four conditions, each with its own recipe, the present one last and as it is now", () => {
    const panes = panesOf("conditions", job, here, recipe);
    expect(panes.map((p) => p.destination)).toEqual([2, 3, 4, 1]);
    expect(panes.at(-1)?.colours).toBe(coloursOf(recipe));
    expect(panes[0]?.label).toBe("News, saturation");
  });

  it("take as many cells as they need", () => {
    expect(gridOf(1)).toEqual({ columns: 1, rows: 1 });
    expect(gridOf(2)).toEqual({ columns: 2, rows: 1 });
    expect(gridOf(3)).toEqual({ columns: 2, rows: 2 });
    expect(gridOf(4)).toEqual({ columns: 2, rows: 2 });
  });

  it("name only what decides colours", () => {
    expect(Object.keys(JSON.parse(coloursOf(recipe)))).toEqual(["source", "intent", "bpc", "ink_rules"]);
  });
});
