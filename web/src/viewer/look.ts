/** What of the print the press view shows; kept while one works, not part of the recipe. */
export interface Look {
  paper: boolean;
  black: boolean;
  veilOn: boolean;
  veil: string;
  map: "" | "distance" | "tac";
  /** The plates shown; null for all of them. */
  plates: string[] | null;
  /** A single plate as greys instead of in its ink. */
  grey: boolean;
}

export const DEFAULT_LOOK: Look = { paper: false, black: true, veilOn: false, veil: "#b8b8b8", map: "", plates: null, grey: false };

export const MAPS = {
  "": "The picture as printed",
  distance: "Map of differences",
  tac: "Map of total ink",
} as const;
