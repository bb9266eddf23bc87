import type { Recipe } from "../api";

export const COLOUR_PARTS = [
  "source",
  "negative",
  "arrival",
  "numbers",
  "link",
  "intent",
  "bpc",
  "perceptual",
  "vivid",
  "corrections",
  "before",
  "ink_rules",
  "plates",
  "after",
  "version",
] as const;

/** All of a recipe that decides colours, as JSON. */
export function coloursOf(recipe: Recipe): string {
  return JSON.stringify(Object.fromEntries(COLOUR_PARTS.map((part) => [part, recipe[part]])));
}
