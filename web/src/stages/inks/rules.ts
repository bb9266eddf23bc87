import type { BlackRule, Destination, InkRules } from "../../api";

export const FIRST_BLACK: BlackRule = {
  method: "gcr",
  strength: 50,
  start: 20,
  limit: 100,
  reach: 45,
};

export const METHOD_SENTENCES: Record<BlackRule["method"], string> = {
  gcr: "Black takes over the grey part of the three colours. More of it saves ink and steadies greys; early black can look grainy.",
  ucr: "Black enters in near-neutral shadows only; colours keep their three inks.",
  neutral: "Greys get black, colours do not: steady greys, and skin and sky without grain.",
  none: "No black at all: the softest look, the most ink, and greys that follow every drift of the press.",
  maximum: "Black does all that it can alone, colours only what is left: least ink, hardest look.",
};

/** Own ink rules as they start: the condition's. */
export function firstRules(destination: Destination): InkRules {
  const own = destination.condition.ink_rules;
  return {
    name: "",
    tac: own.tac,
    limits: {},
    black: { ...FIRST_BLACK, ...own.black },
    protect: { pure_black: true, neutral_to_black: false, black_text: false },
  };
}
