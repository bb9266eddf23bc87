import type { Destination, Intent, Job, Recipe } from "../api";
import { INTENT_NAMES } from "../stages/wording";

/** How many pictures are compared, and which. */
export const LAYOUTS = {
  pair: "Original and press view",
  single: "One pane",
  intents: "Four intents",
  conditions: "Conditions of this job",
} as const;

export type Layout = keyof typeof LAYOUTS;

/** One picture of a layout: what is rendered, and what stands below it. */
export interface PaneView {
  key: string;
  kind: "original" | "proof";
  label: string;
  destination: number;
  /** The colour part of a recipe as JSON. */
  colours: string;
}

export const ORIGINAL_LABEL = "Original, as an sRGB screen shows it";
const MOST = 4;

/** All of a recipe that decides colours, as JSON. */
export function coloursOf({ source, intent, bpc, ink_rules }: Recipe): string {
  return JSON.stringify({ source, intent, bpc, ink_rules });
}

const proofLabel = (destination: Destination, intent: Intent) =>
  `${destination.condition.name}, ${INTENT_NAMES[intent].toLowerCase()}`;

/** The pictures of a layout; the last one is the press view being worked on, except for intents. */
export function panesOf(layout: Layout, job: Job, destination: Destination, recipe: Recipe): PaneView[] {
  const current: PaneView = {
    key: "proof", kind: "proof", label: proofLabel(destination, recipe.intent), destination: destination.id, colours: coloursOf(recipe),
  };
  if (layout === "single") return [current];
  if (layout === "intents") {
    return (Object.keys(INTENT_NAMES) as Intent[]).map((intent) => ({
      ...current, key: intent, label: INTENT_NAMES[intent], colours: coloursOf({ ...recipe, intent }),
    }));
  }
  if (layout === "conditions") {
    const others = job.destinations.filter((d) => d.id !== destination.id).slice(0, MOST - 1);
    const panes = others.map((d): PaneView => ({
      key: `c${d.id}`, kind: "proof", label: proofLabel(d, d.recipe.intent), destination: d.id, colours: coloursOf(d.recipe),
    }));
    return [...panes, current];
  }
  return [{ ...current, key: "original", kind: "original", label: ORIGINAL_LABEL }, current];
}

/** Columns and rows for a number of panes. */
export function gridOf(count: number): { columns: number; rows: number } {
  return { columns: count === 1 ? 1 : 2, rows: count > 2 ? 2 : 1 };
}
