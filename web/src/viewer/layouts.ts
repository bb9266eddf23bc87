import type { Destination, Intent, Job, Recipe } from "../api";
import { coloursOf } from "../recipe";
import { INTENT_NAMES } from "../ui/wording";
import type { Size } from "./geometry";
import type { Look } from "./look";

/** What is compared. */
export const LAYOUTS = {
  pair: "Original and press view",
  corrected: "Corrected artwork and press view",
  unconverted: "Unconverted and press view",
  moments: "Two moments of the recipe",
  intents: "Four intents",
  conditions: "Conditions of this job",
} as const satisfies Record<Look["layout"], string>;

export type Layout = keyof typeof LAYOUTS;

/** How two pictures are shown. */
export const ARRANGEMENTS = {
  fit: "As large as the picture allows",
  side: "Side by side",
  stacked: "One above the other",
  split: "Split, with a line to move",
  single: "One pane, flip with J",
} as const satisfies Record<Look["arrangement"], string>;

export type Arrangement = keyof typeof ARRANGEMENTS;

/** A former moment of the recipe, or the present one being worked on. */
export type MomentChoice = number | "present";

/** One picture of a layout: what is rendered, and what stands below it. */
export interface PaneView {
  key: string;
  kind: "original" | "corrected" | "unconverted" | "proof";
  label: string;
  destination: number;
  artwork: number;
  /** The colour part of a recipe as JSON. */
  colours: string;
  /** Number and identity of a former moment in place of the colours. */
  moment?: string;
}

const SCREENS: Record<string, string> = { srgb: "an sRGB screen", p3: "a P3 screen" };
export const originalLabel = (display: string) =>
  `Original, as ${SCREENS[display] ?? "this screen"} shows it`;
const MOST = 4;
const proofLabel = (destination: Destination, { intent, link }: Recipe) =>
  `${destination.condition.name}, ${link ? "by a device link" : INTENT_NAMES[intent].toLowerCase()}`;

/** Whether the artwork's own numbers could be sent to a condition without a conversion. */
export const canSendAsIs = (job: Job, { condition, source }: Destination) =>
  job.artwork.facts.space === condition.profile.colour_space && !source.same_space;

interface Wanted {
  layout: Layout;
  job: Job;
  destination: Destination;
  recipe: Recipe;
  display?: string;
  /** The two moments compared, oldest first. */
  moments?: [MomentChoice, MomentChoice];
}

/** The pictures of a layout; the last one is the press view being worked on, except for intents. */
export function panesOf({
  layout,
  job,
  destination,
  recipe,
  display = "srgb",
  moments = [0, "present"],
}: Wanted): PaneView[] {
  const current: PaneView = {
    key: "proof",
    kind: "proof",
    label: proofLabel(destination, recipe),
    destination: destination.id,
    artwork: job.artwork.id,
    colours: coloursOf(recipe),
  };
  if (layout === "intents") {
    return (Object.keys(INTENT_NAMES) as Intent[]).map((intent) => ({
      ...current,
      key: intent,
      label: INTENT_NAMES[intent],
      colours: coloursOf({ ...recipe, intent }),
    }));
  }
  if (layout === "conditions") {
    const others = job.destinations.filter((d) => d.id !== destination.id).slice(0, MOST - 1);
    const panes = others.map((d): PaneView => ({
      key: `c${d.id}`,
      kind: "proof",
      label: proofLabel(d, d.recipe),
      destination: d.id,
      artwork: job.artwork.id,
      colours: coloursOf(d.recipe),
    }));
    return [...panes, current];
  }
  if (layout === "moments") {
    return moments.map((moment, i) =>
      moment === "present"
        ? { ...current, key: `m${i}` }
        : {
            ...current,
            key: `m${i}`,
            label: `Moment ${moment + 1}`,
            moment: `${moment}:${destination.revision}`,
          },
    );
  }
  if (layout === "unconverted" && canSendAsIs(job, destination)) {
    const label = `${destination.condition.name}, numbers as they are`;
    return [{ ...current, key: "unconverted", kind: "unconverted", label }, current];
  }
  const first: PaneView =
    layout === "corrected"
      ? { ...current, key: "corrected", kind: "corrected", label: "Artwork with its corrections" }
      : { ...current, key: "original", kind: "original", label: originalLabel(display) };
  return [first, current];
}

/** Columns and rows for a number of panes. */
export function gridOf(count: number, stacked = false): { columns: number; rows: number } {
  if (stacked && count === 2) return { columns: 1, rows: 2 };
  return { columns: count === 1 ? 1 : 2, rows: count > 2 ? 2 : 1 };
}

/** Height of the line below every picture. */
export const CAPTION = 30;
/** The share of the window that the pictures being judged are to take. */
export const WANTED_SHARE = 0.4;

/** Screen pixels that a picture fills in panes of a grid, all panes together. */
function filled(picture: Size, room: Size, columns: number, rows: number, count: number): number {
  const pane = {
    width: Math.floor(room.width / columns),
    height: Math.floor(room.height / rows) - CAPTION,
  };
  const scale = Math.min(pane.width / picture.width, pane.height / picture.height);
  return scale <= 0 ? 0 : count * picture.width * scale * picture.height * scale;
}

/** The arrangement of two pictures that lets them be large: both at once where they take 40 % of the window, else one. */
export function fitted(
  picture: Size,
  room: Size,
  window: Size,
): Exclude<Arrangement, "fit" | "split"> {
  const share = (columns: number, rows: number, count: number) =>
    filled(picture, room, columns, rows, count) / (window.width * window.height);
  const side = share(2, 1, 2);
  const stacked = share(1, 2, 2);
  if (Math.max(side, stacked) >= WANTED_SHARE || Math.max(side, stacked) >= share(1, 1, 1))
    return side >= stacked ? "side" : "stacked";
  return "single";
}
