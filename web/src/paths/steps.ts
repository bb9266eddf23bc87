import type { PathStep } from "../api";

/** A step in an address: kind:reference:intent, and a + where black points are compensated. */
export const stepCode = ({ kind, ref, intent, bpc }: PathStep) =>
  `${kind}:${ref}:${intent}${bpc ? "+" : ""}`;

const KINDS = ["profile", "condition", "table", "job", "inks", "reversal", "lab"];
const INTENTS = ["perceptual", "relative", "saturation", "absolute"];

/** The step of an address, null for what is none. */
export function stepOf(code: string): PathStep | null {
  const [kind = "", ref = "", way = ""] = code.split(":");
  const bpc = way.endsWith("+");
  const intent = bpc ? way.slice(0, -1) : way;
  if (!KINDS.includes(kind) || !INTENTS.includes(intent)) return null;
  return { kind, ref, intent, bpc } as PathStep;
}

export const newStep = (kind: string, ref: string): PathStep =>
  ({ kind, ref, intent: "relative", bpc: true }) as PathStep;

/** What a path begins with where colours of a space come without a profile. */
export function firstStep(space: string, condition: number | null): PathStep {
  if (space === "Lab") return newStep("lab", "");
  if (space === "RGB") return newStep("profile", "srgb");
  if (space === "GRAY" || space === "Grey") return newStep("profile", "grey");
  return condition === null ? newStep("lab", "") : newStep("condition", String(condition));
}

/** A step moved by one place; the same steps where it stands at the end. */
export function moved(steps: PathStep[], at: number, by: 1 | -1): PathStep[] {
  const to = at + by;
  const [one, other] = [steps[at], steps[to]];
  if (!one || !other) return steps;
  const next = [...steps];
  next[at] = other;
  next[to] = one;
  return next;
}

/** Which steps are compared after one was taken out: each stays on its step, or moves to the nearest. */
export const afterRemoval = (chosen: number, removed: number, left: number) =>
  Math.max(0, Math.min(left - 1, chosen > removed ? chosen - 1 : chosen));
