import type { KeptLook } from "../api";

/** How the print is looked at and compared; kept for each person and job, not part of the recipe. */
export interface Look {
  /** What the screen plays: the print's colours only, its weakest black too, its paper as well. */
  plays: KeptLook["plays"];
  veilOn: boolean;
  /** "hatch", or a colour. */
  veil: string;
  /** Which ways of being out of gamut the veil marks. */
  ways: ("vivid" | "dark" | "light")[];
  map: "" | "distance" | "tac" | "correction";
  /** The correction whose weight the map "correction" shows. */
  correction: number;
  /** The plates shown; null for all of them. */
  plates: string[] | null;
  /** A single plate as greys instead of in its ink. */
  grey: boolean;
  /** The screen's profile by reference. */
  display: string;
  /** Mark what the screen itself cannot show. */
  screenVeilOn: boolean;
  /** Percent below which dots are shown as vanished; 0 shows them all. */
  breakUp: number;
  /** The outermost colours of the artwork's space, beside every picture. */
  bar: boolean;
  /** The sheet's edge around the print, mirrored where it is delivered mirrored. */
  sheet: boolean;
  layout: KeptLook["layout"];
  arrangement: KeptLook["arrangement"];
  surround: KeptLook["surround"];
}

export const DEFAULT_LOOK: Look = {
  plays: "black",
  veilOn: false,
  veil: "hatch",
  ways: ["vivid", "dark", "light"],
  map: "",
  correction: 0,
  plates: null,
  grey: false,
  display: "srgb",
  screenVeilOn: false,
  breakUp: 0,
  bar: false,
  sheet: false,
  layout: "pair",
  arrangement: "fit",
  surround: "mid",
};

export const PLAYS: Record<Look["plays"], string> = {
  colours: "The print's colours only",
  black: "Its weakest black too",
  paper: "Its paper as well",
};

export const SCREEN_VEIL = "#1b1b1b";

export const MAPS = {
  "": "The picture as printed",
  distance: "Map of differences",
  tac: "Map of total ink",
} as const;

/** A look as the server keeps it; which correction is being looked at is not kept. */
export const lookToKeep = (look: Look): KeptLook => ({
  plays: look.plays,
  veil_on: look.veilOn,
  veil: look.veil,
  ways: look.ways,
  map: look.map === "correction" ? "" : look.map,
  plates: look.plates,
  grey: look.grey,
  display: look.display,
  screen_veil_on: look.screenVeilOn,
  bar: look.bar,
  sheet: look.sheet,
  break_up: look.breakUp,
  layout: look.layout,
  arrangement: look.arrangement,
  surround: look.surround,
});

/** A kept look; what was not kept is as at the beginning. */
export function lookFrom(kept: KeptLook | null): Look {
  if (!kept) return DEFAULT_LOOK;
  return {
    ...DEFAULT_LOOK,
    plays: kept.plays,
    veilOn: kept.veil_on,
    veil: kept.veil,
    ways: kept.ways ?? DEFAULT_LOOK.ways,
    map: kept.map,
    plates: kept.plates ?? null,
    grey: kept.grey,
    display: kept.display,
    screenVeilOn: kept.screen_veil_on,
    bar: kept.bar,
    sheet: kept.sheet,
    breakUp: kept.break_up,
    layout: kept.layout,
    arrangement: kept.arrangement,
    surround: kept.surround,
  };
}
