import type { PolicyRule } from "../api";

const KINDS = ["contone", "line art", "drawn", "text", "shadings"] as const;
type Kind = (typeof KINDS)[number];
/** What a rule's objects are made of; images include line art, and vectors text. */
const MADE_OF: Record<PolicyRule["objects"], readonly Kind[]> = {
  all: KINDS,
  images: ["contone", "line art"],
  "line art": ["line art"],
  vectors: ["drawn", "text"],
  text: ["text"],
  shadings: ["shadings"],
};
const SPACES = ["RGB", "CMYK", "grey", "Lab", "spot"] as const;

const spacesOf = (rule: PolicyRule) =>
  rule.space === "all" ? SPACES : SPACES.filter((s) => s === rule.space);
/** Whether a rule takes all that another one is for, of a kind and space. */
const takes = (earlier: PolicyRule, kind: Kind, space: string, rule: PolicyRule) =>
  MADE_OF[earlier.objects].includes(kind) &&
  (earlier.space === "all" || earlier.space === space) &&
  (earlier.spot === "" || earlier.spot === rule.spot) &&
  (!earlier.below || (!!rule.below && rule.below <= earlier.below)) &&
  (!earlier.pages || earlier.pages === rule.pages) &&
  (!earlier.layer || earlier.layer === rule.layer);

/** For every rule that can never act the numbers, from 1, of the earlier rules that take all its objects; else an empty list. */
export function unreachable(rules: readonly PolicyRule[]): number[][] {
  return rules.map((rule, index) => {
    const taken = new Set<number>();
    for (const kind of MADE_OF[rule.objects]) {
      for (const space of spacesOf(rule)) {
        const by = rules.slice(0, index).findIndex((earlier) => takes(earlier, kind, space, rule));
        if (by < 0) return [];
        taken.add(by + 1);
      }
    }
    return [...taken].sort((a, b) => a - b);
  });
}

/** The rules with a new one where it can act: above the first rule that would take all its objects. */
export function inserted(rules: readonly PolicyRule[], rule: PolicyRule): PolicyRule[] {
  for (let place = rules.length; place >= 0; place -= 1) {
    const next = [...rules.slice(0, place), rule, ...rules.slice(place)];
    if (unreachable(next)[place]?.length === 0) return next;
  }
  return [...rules, rule];
}
