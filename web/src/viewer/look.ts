/** What of the print the press view shows; kept while one works, not part of the recipe. */
export interface Look {
  paper: boolean;
  black: boolean;
  veilOn: boolean;
  veil: string;
}

export const DEFAULT_LOOK: Look = { paper: false, black: true, veilOn: false, veil: "#b8b8b8" };
