import type { PolicyRule } from "../api";

const KINDS = ["images", "vectors", "shadings"] as const;
const SPACES = ["RGB", "CMYK", "grey", "Lab", "spot"] as const;

const kindsOf = (rule: PolicyRule) =>
  rule.objects === "all" ? KINDS : KINDS.filter((k) => k === rule.objects);
const spacesOf = (rule: PolicyRule) =>
  rule.space === "all" ? SPACES : SPACES.filter((s) => s === rule.space);
const isFor = (rule: PolicyRule, kind: string, space: string, spot: string) =>
  (rule.objects === "all" || rule.objects === kind) &&
  (rule.space === "all" || rule.space === space) &&
  (rule.spot === "" || rule.spot === spot);

/** For every rule that can never act the numbers, from 1, of the earlier rules that take all its objects; else an empty list. */
export function unreachable(rules: readonly PolicyRule[]): number[][] {
  return rules.map((rule, index) => {
    const taken = new Set<number>();
    for (const kind of kindsOf(rule)) {
      for (const space of spacesOf(rule)) {
        const by = rules
          .slice(0, index)
          .findIndex((earlier) => isFor(earlier, kind, space, rule.spot));
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
