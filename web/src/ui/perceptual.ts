import type { Recipe } from "../api";

export type Perceptual = NonNullable<Recipe["perceptual"]>;

/** Kinds of perceptual, as a build and a recipe choose them. */
export const PERCEPTUAL_KINDS: Record<NonNullable<Perceptual["kind"]>, string> = {
  faithful: "Faithful: moves least",
  balanced: "Balanced",
  vivid: "Vivid: keeps most colour",
};

/** What perceptual can be told beside its kind, with unit, end and what it does. */
export const PERCEPTUAL_CONTROLS = [
  ["colourfulness", "Colourfulness", "%", 50, "Chroma of all colours, more or less."],
  ["contrast", "Contrast", "%", 50, "Steeper or flatter middle tones; black and white stay."],
  ["grey_a", "Greys towards red", "a*", 5, "Middle greys lean to red, below nought to green."],
  ["grey_b", "Greys towards yellow", "b*", 5, "Middle greys lean to yellow, below nought to blue."],
] as const;

export const PLAIN_PERCEPTUAL: Required<Perceptual> = {
  kind: "balanced",
  colourfulness: 0,
  contrast: 0,
  grey_a: 0,
  grey_b: 0,
};
