/** What of the print the press view shows; kept while one works, not part of the recipe. */
export interface Look {
  paper: boolean;
  black: boolean;
  veilOn: boolean;
  veil: string;
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
}

export const DEFAULT_LOOK: Look = {
  paper: false, black: true, veilOn: false, veil: "#b8b8b8", map: "", correction: 0, plates: null, grey: false,
  display: "srgb", screenVeilOn: false, breakUp: 0,
};

export const SCREEN_VEIL = "#1b1b1b";

export const MAPS = {
  "": "The picture as printed",
  distance: "Map of differences",
  tac: "Map of total ink",
} as const;
