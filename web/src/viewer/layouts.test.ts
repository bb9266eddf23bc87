import { describe, expect, it } from "vitest";

import type { Destination, Job, Recipe } from "../api";
import { coloursOf } from "../recipe";
import { CAPTION, fitted, gridOf, originalLabel, panesOf, WANTED_SHARE } from "./layouts";

const recipe = {
  version: 1,
  page: 0,
  source: null,
  negative: false,
  arrival: null,
  numbers: "keep",
  link: null,
  destination: "x",
  intent: "perceptual",
  bpc: true,
  vivid: null,
  corrections: [],
  before: null,
  ink_rules: null,
  plates: {},
  after: null,
  delivery: {},
} as unknown as Recipe;
const destination = (id: number, name: string) =>
  ({
    id,
    condition: { name },
    recipe: { ...recipe, intent: "saturation" },
  }) as unknown as Destination;
const here = destination(1, "Coated");
const job = {
  artwork: { id: 7 },
  destinations: [
    here,
    destination(2, "News"),
    destination(3, "Satin"),
    destination(4, "Cotton"),
    destination(5, "Film"),
  ],
} as unknown as Job;

describe("layouts", () => {
  it("set the original beside the press view", () => {
    const [left, right] = panesOf({ layout: "pair", job, destination: here, recipe });
    expect([left?.kind, right?.kind]).toEqual(["original", "proof"]);
    expect(left?.label).toBe(originalLabel("srgb"));
    expect(right?.label).toBe("Coated, perceptual");
  });

  it("set the artwork's own numbers beside the press view where they can be sent", () => {
    const inks = (same_space: boolean) => ({
      ...here,
      condition: { name: "Coated", profile: { colour_space: "CMYK" } },
      source: { same_space },
    });
    const artwork = (space: string) => ({ ...job, artwork: { id: 7, facts: { space } } });
    const kinds = (space: string, same: boolean) =>
      panesOf({
        layout: "unconverted",
        job: artwork(space) as unknown as Job,
        destination: inks(same) as unknown as Destination,
        recipe,
      }).map((p) => p.kind);
    expect(kinds("CMYK", false)).toEqual(["unconverted", "proof"]);
    expect(kinds("CMYK", true)).toEqual(["original", "proof"]);
    expect(kinds("RGB", false)).toEqual(["original", "proof"]);
  });

  it("show four intents of one recipe", () => {
    const panes = panesOf({ layout: "intents", job, destination: here, recipe });
    expect(panes.map((p) => JSON.parse(p.colours).intent)).toEqual([
      "perceptual",
      "relative",
      "saturation",
      "absolute",
    ]);
    expect(new Set(panes.map((p) => p.key)).size).toBe(4);
  });

  it("show at most four conditions, each with its own recipe, the present one last and as it is now", () => {
    const panes = panesOf({ layout: "conditions", job, destination: here, recipe });
    expect(panes.map((p) => p.destination)).toEqual([2, 3, 4, 1]);
    expect(panes.at(-1)?.colours).toBe(coloursOf(recipe));
    expect(panes[0]?.label).toBe("News, saturation");
  });

  it("set two moments side by side, a former one by its number and not by its colours", () => {
    const [left, right] = panesOf({
      layout: "moments",
      job,
      destination: here,
      recipe,
      moments: [2, "present"],
    });
    expect(left?.moment).toMatch(/^2:/);
    expect(right?.moment).toBeUndefined();
    expect(right?.colours).toBe(coloursOf(recipe));
    const changed = { ...here, revision: 9 } as Destination;
    expect(
      panesOf({ layout: "moments", job, destination: changed, recipe, moments: [2, "present"] })[0]
        ?.moment,
    ).not.toBe(left?.moment);
  });

  it("take as many cells as they need", () => {
    expect(gridOf(1)).toEqual({ columns: 1, rows: 1 });
    expect(gridOf(2)).toEqual({ columns: 2, rows: 1 });
    expect(gridOf(3)).toEqual({ columns: 2, rows: 2 });
    expect(gridOf(4)).toEqual({ columns: 2, rows: 2 });
  });

  it("name only what decides colours", () => {
    expect(Object.keys(JSON.parse(coloursOf(recipe)))).toEqual([
      "source",
      "negative",
      "arrival",
      "numbers",
      "link",
      "intent",
      "bpc",
      "vivid",
      "corrections",
      "before",
      "ink_rules",
      "plates",
      "after",
      "version",
    ]);
  });
});

describe("the largest arrangement", () => {
  const WINDOW = { width: 1280, height: 800 };
  // What the stage Press view leaves of 1280 x 800: rail, header, intents and readout taken off.
  const ROOM = { width: 1024, height: 800 - 48 - 84 - 78 };
  const shareOf = (width: number, height: number): number => {
    const way = fitted({ width, height }, ROOM, WINDOW);
    const [columns, rows, count] =
      way === "side" ? [2, 1, 2] : way === "stacked" ? [1, 2, 2] : [1, 1, 1];
    const scale = Math.min(ROOM.width / columns / width, (ROOM.height / rows - CAPTION) / height);
    return (count * width * height * scale ** 2) / (WINDOW.width * WINDOW.height);
  };

  it.each([
    [2, 3],
    [3, 4],
    [4, 5],
    [1, 1],
    [5, 4],
    [4, 3],
    [3, 2],
    [16, 9],
    [2, 1],
  ])("gives a picture of %i by %i two fifths of the window", (w, h) => {
    expect(shareOf(w * 1000, h * 1000)).toBeGreaterThanOrEqual(WANTED_SHARE);
  });

  it("sets portraits side by side, landscapes alone, panoramas one above the other", () => {
    expect(fitted({ width: 3000, height: 4000 }, ROOM, WINDOW)).toBe("side");
    expect(fitted({ width: 3000, height: 2000 }, ROOM, WINDOW)).toBe("single");
    expect(fitted({ width: 9000, height: 2000 }, ROOM, WINDOW)).toBe("stacked");
  });

  it("shows both at once where the window is large enough for it", () => {
    const large = { width: 2560, height: 1440 };
    expect(fitted({ width: 3000, height: 2000 }, { width: 2260, height: 1230 }, large)).toBe(
      "side",
    );
  });
});
