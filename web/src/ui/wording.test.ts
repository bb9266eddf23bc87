import { describe, expect, it } from "vitest";

import type { Artwork, Destination, Recipe } from "../api";
import { artworkLine, deliverFact, inksFact, profileSpace, sourceFact } from "./wording";

const artwork = (facts: Partial<Artwork["facts"]>) =>
  ({
    facts: {
      format: "TIFF",
      width: 400,
      height: 300,
      space: "RGB",
      channels: 3,
      bits: 16,
      transparency: false,
      resolution: [300, 300],
      print_size_mm: [33.9, 25.4],
      pages: 1,
      profile: "opRGB",
      profile_sha256: null,
      profile_problem: null,
      ...facts,
    },
  }) as Artwork;

const recipe = (part: Partial<Recipe>) => ({ ink_rules: null, ...part }) as Recipe;
const destination = (part: object) =>
  ({
    condition: { profile: { colour_space: "CMYK" } },
    facts: { tac_max: 305.4, tac_rule: 320 },
    source: { same_space: false },
    ...part,
  }) as unknown as Destination;

describe("the rail's facts", () => {
  it("describe the artwork in three lines", () => {
    expect(artworkLine(artwork({}))).toEqual([
      "TIFF, RGB, 16 bit",
      "400 × 300 px, 34 × 25 mm at 300 ppi",
      "opRGB, embedded",
    ]);
    expect(
      artworkLine(
        artwork({ profile: null, resolution: null, print_size_mm: null, transparency: true }),
      ),
    ).toEqual([
      "TIFF, RGB, 16 bit, transparency",
      "400 × 300 px, no resolution stated",
      "no profile embedded",
    ]);
  });

  it("say where the source comes from, or that one is needed", () => {
    expect(
      sourceFact(
        destination({ source: { profile: "sRGB", origin: "house default", problem: null } }),
      ),
    ).toBe("sRGB, house default");
    expect(
      sourceFact(destination({ source: { profile: null, origin: "none", problem: "No." } })),
    ).toBe("needs a profile");
  });

  it("name the TAC and how black is made", () => {
    expect(inksFact(recipe({}), destination({}))).toBe("TAC 305 of 320 %, as profiled");
    const rules = {
      name: "",
      tac: 320,
      limits: {},
      black: { method: "gcr" as const, strength: 65, start: 1, limit: 1, reach: 45 },
      protect: { pure_black: true, neutral_to_black: false, black_text: false },
    };
    expect(inksFact(recipe({ ink_rules: rules }), destination({}))).toBe(
      "TAC 305 of 320 %, GCR 65",
    );
    const same = destination({ source: { same_space: true } });
    expect(inksFact(recipe({ ink_rules: rules, numbers: "keep" }), same)).toBe(
      "TAC 305 of 320 %, the artwork's own numbers",
    );
    expect(inksFact(recipe({ ink_rules: rules, numbers: "separate" }), same)).toBe(
      "TAC 305 of 320 %, GCR 65",
    );
    expect(
      inksFact(
        recipe({ ink_rules: { ...rules, black: { ...rules.black, method: "neutral" } } }),
        destination({}),
      ),
    ).toContain("black in greys only");
    const paper = destination({
      condition: { profile: { colour_space: "RGB", inks: null } } as Destination["condition"],
    });
    expect(inksFact(recipe({}), paper)).toBe("none, the process takes RGB");
    expect(
      inksFact(recipe({ ink_rules: { ...rules, black: null } }), destination({ facts: {} })),
    ).toBe("measuring, profile's black");
  });

  it("tell the delivery's form", () => {
    const delivery = {
      format: "TIFF" as const,
      bits: 8 as const,
      embed: false,
      compression: "none" as const,
      quality: 90,
      mirror: true,
      negative: false,
      turn: 0,
      films: null,
      resolution: null,
    } as unknown as Recipe["delivery"];
    expect(deliverFact(recipe({ delivery }))).toBe("TIFF 8 bit, profile out, mirrored");
    expect(deliverFact(recipe({ delivery: { ...delivery, turn: 90, resolution: 300 } }))).toBe(
      "TIFF 8 bit, profile out, 300 ppi, turned 90°, mirrored",
    );
    const films = { screening: "am", ruling: 55 } as NonNullable<Recipe["delivery"]["films"]>;
    expect(deliverFact(recipe({ delivery: { ...delivery, films } }))).toBe(
      "Films, 55 lpi, TIFF, mirrored",
    );
  });

  it("match profiles to the artwork's space", () => {
    expect(profileSpace(artwork({ space: "Grey" }))).toBe("GRAY");
  });
});
