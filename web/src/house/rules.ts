import type { HouseRules } from "../api";

export const FIRST_RULES: HouseRules = {
  version: 1,
  name: "House rules",
  rgb: "srgb",
  grey: "grey",
  cmyk: null,
  differs: "keep",
  missing: "assign",
  intent: "perceptual",
  bpc: true,
  work: [],
};

export const DIFFERS: Record<HouseRules["differs"], string> = {
  keep: "Keep it",
  convert: "Convert to the default",
  ask: "Ask each time",
};
export const MISSING: Record<HouseRules["missing"], string> = {
  assign: "Assign the default",
  ask: "Ask each time",
  refuse: "Refuse the picture",
};

const DIFFERS_WORDS: Record<HouseRules["differs"], string> = {
  keep: "A picture with another profile keeps it: its colours mean what its sender meant.",
  convert:
    "A picture with another profile is first converted to the default; colours outside the default's gamut are cut off.",
  ask: "A picture with another profile waits for an answer in the stage Source before anything is delivered.",
};

const MISSING_WORDS: Record<HouseRules["missing"], string> = {
  assign:
    "A picture without a profile is taken as the default; it may look different at its sender.",
  ask: "A picture without a profile waits for an answer in the stage Source.",
  refuse: "A picture without a profile is not taken in at all.",
};

/** What a set of house rules does, in two sentences. */
export const sentenceOf = (rules: HouseRules) =>
  `${DIFFERS_WORDS[rules.differs]} ${MISSING_WORDS[rules.missing]}`;
