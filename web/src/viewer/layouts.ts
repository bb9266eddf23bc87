import type { Destination, Intent, Job, Recipe } from "../api";
import { INTENT_NAMES } from "../stages/wording";

/** What is compared. */
export const LAYOUTS = {
  pair: "Original and press view",
  corrected: "Corrected artwork and press view",
  states: "Two states of the recipe",
  intents: "Four intents",
  conditions: "Conditions of this job",
} as const;

export type Layout = keyof typeof LAYOUTS;

/** How two pictures are shown. */
export const ARRANGEMENTS = {
  side: "Side by side",
  split: "Split, with a line to move",
  single: "One pane, flip with J",
} as const;

export type Arrangement = keyof typeof ARRANGEMENTS;

/** A former state of the recipe, or the present one being worked on. */
export type StateChoice = number | "present";

/** One picture of a layout: what is rendered, and what stands below it. */
export interface PaneView {
  key: string;
  kind: "original" | "corrected" | "proof";
  label: string;
  destination: number;
  /** The colour part of a recipe as JSON. */
  colours: string;
  /** Position and identity of a former state in place of the colours. */
  state?: string;
}

const SCREENS: Record<string, string> = { srgb: "an sRGB screen", p3: "a P3 screen" };
export const originalLabel = (display: string) => `Original, as ${SCREENS[display] ?? "this screen"} shows it`;
const MOST = 4;
const COLOUR_PARTS = ["source", "working", "intent", "bpc", "vivid", "corrections", "before", "ink_rules", "plates", "after"] as const;

/** All of a recipe that decides colours, as JSON. */
export function coloursOf(recipe: Recipe): string {
  return JSON.stringify(Object.fromEntries(COLOUR_PARTS.map((part) => [part, recipe[part]])));
}

const proofLabel = (destination: Destination, intent: Intent) =>
  `${destination.condition.name}, ${INTENT_NAMES[intent].toLowerCase()}`;

interface Wanted {
  layout: Layout;
  job: Job;
  destination: Destination;
  recipe: Recipe;
  display?: string;
  /** The two states compared, oldest first. */
  states?: [StateChoice, StateChoice];
}

/** The pictures of a layout; the last one is the press view being worked on, except for intents. */
export function panesOf({ layout, job, destination, recipe, display = "srgb", states = [0, "present"] }: Wanted): PaneView[] {
  const current: PaneView = {
    key: "proof", kind: "proof", label: proofLabel(destination, recipe.intent), destination: destination.id, colours: coloursOf(recipe),
  };
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
  if (layout === "states") {
    return states.map((state, i) => (state === "present" ? { ...current, key: `s${i}` } : { ...current, key: `s${i}`, label: `State ${state + 1}`, state: `${state}:${stampOf(destination)}` }));
  }
  const first: PaneView = layout === "corrected"
    ? { ...current, key: "corrected", kind: "corrected", label: "Artwork with its corrections" }
    : { ...current, key: "original", kind: "original", label: originalLabel(display) };
  return [first, current];
}

/** Tells histories apart in addresses: a state's number means another recipe after undo and change. */
const stampOf = (destination: Destination) => String(hash(JSON.stringify(destination.recipe)));

function hash(text: string): number {
  let value = 0;
  for (const c of text) value = (value * 31 + (c.codePointAt(0) ?? 0)) | 0;
  return value >>> 0;
}

/** Columns and rows for a number of panes. */
export function gridOf(count: number): { columns: number; rows: number } {
  return { columns: count === 1 ? 1 : 2, rows: count > 2 ? 2 : 1 };
}
