import type { BlackRule, Destination, InkRules } from "../../api";

export const FIRST_BLACK: BlackRule = {
  method: "gcr",
  strength: 50,
  start: 20,
  limit: 100,
  reach: 45,
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
