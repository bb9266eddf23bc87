import type { Destination, Recipe } from "../api";
import { alike, type Patch, patched, pathsOf, RECIPE_KEYS, valueAt } from "../api/patches";

/** A change on its way to the server, or a step of the history. */
export interface Pending {
  id: number;
  /** The fields that change; null for undo and redo. */
  patch: Patch | null;
  /** The revision it must be sent on, where that is not the newest one: somebody changed the same meanwhile. */
  match?: number;
}

export interface RecipeState {
  /** The newest answer of the server. */
  base: Destination;
  /** Unanswered changes, oldest first; they are laid over the base until their own answer comes. */
  pending: Pending[];
  /** What a control shows while it moves, not sent yet. */
  live: Patch | null;
}

export type RecipeEvent =
  | { type: "changed"; id: number; patch: Patch }
  | { type: "stepped"; id: number }
  | { type: "previewed"; patch: Patch | null }
  | { type: "answered"; id: number; destination: Destination }
  | { type: "refused"; id: number }
  | { type: "seen"; destination: Destination };

export const begin = (base: Destination): RecipeState => ({ base, pending: [], live: null });

const over = <T>(value: T, patch: Patch) => patched(value, patch, RECIPE_KEYS);

/** The recipe with every unanswered change in it, but without what only moves. */
export const settledRecipe = (state: RecipeState): Recipe =>
  state.pending.reduce<Recipe>(
    (recipe, p) => (p.patch ? over(recipe, p.patch) : recipe),
    state.base.recipe,
  );

/** The recipe as it is shown. */
export const shownRecipe = (state: RecipeState): Recipe =>
  state.live ? over(settledRecipe(state), state.live) : settledRecipe(state);

/** Pins changes to the former revision where an answer holds something else than this window made of their fields. */
function pinned(state: RecipeState, answer: Destination, own: Pending | undefined): Pending[] {
  const expected = own?.patch ? over(state.base.recipe, own.patch) : null;
  return state.pending
    .filter((p) => p !== own)
    .map((p) => {
      if (!expected || !p.patch || p.match !== undefined) return p;
      const foreign = pathsOf(p.patch).some(
        (path) => !alike(valueAt(answer.recipe, path), valueAt(expected, path)),
      );
      return foreign ? { ...p, match: state.base.revision } : p;
    });
}

/** Everything that can happen to a recipe in one window; no change is ever dropped but by its own answer. */
export function recipeReducer(state: RecipeState, event: RecipeEvent): RecipeState {
  switch (event.type) {
    case "changed":
      return {
        ...state,
        pending: [...state.pending, { id: event.id, patch: event.patch }],
        live: null,
      };
    case "stepped":
      return { ...state, pending: [...state.pending, { id: event.id, patch: null }], live: null };
    case "previewed":
      return { ...state, live: event.patch };
    case "refused":
      return { ...state, pending: state.pending.filter((p) => p.id !== event.id) };
    case "answered": {
      const own = state.pending.find((p) => p.id === event.id);
      const newer = event.destination.revision >= state.base.revision;
      return {
        ...state,
        base: newer ? event.destination : state.base,
        pending: pinned(state, event.destination, own),
      };
    }
    case "seen": {
      // While changes are on their way the base is what they were made on; their answers bring the rest.
      const older = event.destination.revision < state.base.revision;
      const same = event.destination.revision === state.base.revision;
      const waits = state.pending.length > 0 && !same;
      // What was asked for before the picture was measured may be answered after it.
      const poorer = same && Boolean(state.base.facts.intent) && !event.destination.facts.intent;
      return older || waits || poorer || event.destination === state.base
        ? state
        : { ...state, base: event.destination };
    }
  }
}
