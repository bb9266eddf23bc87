import type { BlackRule } from "../api";

type Setting = "strength" | "start" | "limit" | "reach";

interface BlackMethod {
  /** In the list of what black does. */
  name: string;
  /** On one line beside other facts. */
  short: (black: BlackRule) => string;
  sentence: string;
  /** What can be set of it, in this order. */
  settings: readonly Setting[];
}

/** The ways black is made, as the screen tells of them; what they compute stands in the core. */
export const BLACK_METHODS: Record<BlackRule["method"], BlackMethod> = {
  gcr: {
    name: "Replaces all grey (GCR)",
    short: (black) => `GCR ${black.strength.toFixed(0)}`,
    sentence:
      "Black takes over the grey part of the three colours. More of it saves ink and steadies greys; early black can look grainy.",
    settings: ["strength", "start", "limit", "reach"],
  },
  ucr: {
    name: "Enters dark neutrals (UCR)",
    short: () => "UCR",
    sentence: "Black enters in near-neutral shadows only; colours keep their three inks.",
    settings: ["start", "limit", "reach"],
  },
  neutral: {
    name: "Makes the greys only",
    short: () => "black in greys only",
    sentence: "Greys get black, colours do not: steady greys, and skin and sky without grain.",
    settings: ["start", "limit"],
  },
  none: {
    name: "Stays out",
    short: () => "no black",
    sentence:
      "No black at all: the softest look, the most ink, and greys that follow every drift of the press.",
    settings: [],
  },
  maximum: {
    name: "Does all that it can",
    short: () => "all black can do",
    sentence:
      "Black does all that it can alone, colours only what is left: least ink, hardest look.",
    settings: ["limit"],
  },
};

interface Dialled {
  label: string;
  unit: string;
  min: number;
  max: number;
  help: string;
}

export const BLACK_SETTINGS: Record<Setting, Dialled> = {
  strength: {
    label: "Strength",
    unit: " %",
    min: 0,
    max: 100,
    help: "How much of the grey part black replaces in the lighter tones.",
  },
  start: {
    label: "Black start",
    unit: " %",
    min: 0,
    max: 90,
    help: "Darkness at which black begins: 0 % is paper, 100 % the darkest grey.",
  },
  limit: {
    label: "Black limit",
    unit: " %",
    min: 0,
    max: 100,
    help: "The highest tone value of the black plate.",
  },
  reach: {
    label: "Reach",
    unit: " C*",
    min: 1,
    max: 120,
    help: "How far from the greys black is used: the chroma at which it has faded to a third.",
  },
};
