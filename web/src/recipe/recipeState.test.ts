import { describe, expect, it } from "vitest";

import type { Destination } from "../api";
import {
  begin,
  type RecipeEvent,
  recipeReducer,
  type RecipeState,
  settledRecipe,
  shownRecipe,
} from "./recipeState";

type Part = Record<string, unknown>;
const RULES = { tac: 300, limits: { C: 80 }, black: { method: "gcr", strength: 50 } };
const at = (revision: number, recipe: Part = {}): Destination =>
  ({
    id: 7,
    revision,
    facts: {},
    recipe: {
      intent: "perceptual",
      bpc: true,
      ink_rules: RULES,
      plates: {},
      delivery: { bits: 16 },
      ...recipe,
    },
  }) as unknown as Destination;
const after = (...events: RecipeEvent[]): RecipeState => events.reduce(recipeReducer, begin(at(1)));
const changed = (id: number, patch: Part): RecipeEvent => ({ type: "changed", id, patch });
const answered = (id: number, destination: Destination): RecipeEvent => ({
  type: "answered",
  id,
  destination,
});
const rules = (state: RecipeState) => shownRecipe(state).ink_rules as unknown as typeof RULES;

describe("a recipe in one window", () => {
  it("shows a change at once and keeps it when its answer comes", () => {
    const state = after(changed(1, { intent: "relative" }));
    expect(shownRecipe(state).intent).toBe("relative");
    const done = recipeReducer(state, answered(1, at(2, { intent: "relative" })));
    expect(done.pending).toEqual([]);
    expect(shownRecipe(done).intent).toBe("relative");
  });

  it("keeps a TAC when two further changes follow before the server answers", () => {
    const tac = { ink_rules: { tac: 240 } };
    const state = after(
      changed(1, tac),
      changed(2, { ink_rules: { black: { strength: 70 } } }),
      changed(3, { bpc: false }),
    );
    for (const events of [[], [answered(1, at(2, { ink_rules: { ...RULES, tac: 240 } }))]]) {
      const now = events.reduce(recipeReducer, state);
      expect(rules(now).tac).toBe(240);
      expect(rules(now).black.strength).toBe(70);
      expect(shownRecipe(now).bpc).toBe(false);
    }
  });

  it.each([[[1, 2, 3]], [[1, 3, 2]], [[3, 2, 1]]])(
    "never shows an answered change undone, answers in the order %j",
    (order) => {
      let state = after(
        changed(1, { intent: "relative" }),
        changed(2, { bpc: false }),
        changed(3, { delivery: { bits: 8 } }),
      );
      const answers: Record<number, Destination> = {
        1: at(2, { intent: "relative" }),
        2: at(3, { intent: "relative", bpc: false }),
        3: at(4, { intent: "relative", bpc: false, delivery: { bits: 8 } }),
      };
      for (const id of order) {
        state = recipeReducer(state, answered(id, answers[id] as Destination));
        const shown = shownRecipe(state);
        expect([shown.intent, shown.bpc, shown.delivery.bits]).toEqual(["relative", false, 8]);
      }
    },
  );

  it("leaves a slider alone that is dragged while an answer comes", () => {
    const state = after(
      changed(1, { intent: "relative" }),
      { type: "previewed", patch: { ink_rules: { tac: 222 } } },
      answered(1, at(2, { intent: "relative" })),
    );
    expect(rules(state).tac).toBe(222);
    expect(rules({ ...state, live: null }).tac).toBe(300);
    expect(settledRecipe(state).ink_rules?.tac).toBe(300);
  });

  it("drops only the change that was refused", () => {
    const state = after(changed(1, { intent: "relative" }), changed(2, { bpc: false }), {
      type: "refused",
      id: 1,
    });
    expect(shownRecipe(state).intent).toBe("perceptual");
    expect(shownRecipe(state).bpc).toBe(false);
  });

  it("follows another window, keeping its own unanswered changes", () => {
    expect(
      shownRecipe(after({ type: "seen", destination: at(5, { intent: "absolute" }) })).intent,
    ).toBe("absolute");
    const own = after(changed(1, { bpc: false }), {
      type: "seen",
      destination: at(5, { intent: "absolute" }),
    });
    expect(shownRecipe(own)).toMatchObject({ intent: "perceptual", bpc: false });
    const both = recipeReducer(own, answered(1, at(6, { intent: "absolute", bpc: false })));
    expect(shownRecipe(both)).toMatchObject({ intent: "absolute", bpc: false });
  });

  it("is not taken back by what was asked for earlier and arrives later", () => {
    const state = after(
      changed(1, { intent: "relative" }),
      answered(1, at(2, { intent: "relative" })),
      { type: "seen", destination: at(1) },
    );
    expect(shownRecipe(state).intent).toBe("relative");
  });

  it("lays later changes over an undo on its way", () => {
    const state = after(
      { type: "stepped", id: 1 },
      changed(2, { bpc: false }),
      answered(1, at(2, { intent: "saturation" })),
    );
    expect(shownRecipe(state)).toMatchObject({ intent: "saturation", bpc: false });
  });

  it("takes new figures of the same recipe", () => {
    const measured = { ...at(1), facts: { tac_max: 290 } } as unknown as Destination;
    expect(after({ type: "seen", destination: measured }).base).toBe(measured);
  });

  it("keeps figures that an earlier answer does not know yet", () => {
    const measured = { ...at(1), facts: { intent: {} } } as unknown as Destination;
    const state = after(
      { type: "seen", destination: measured },
      { type: "seen", destination: at(1) },
    );
    expect(state.base).toBe(measured);
    expect(after({ type: "seen", destination: at(2) }).base.revision).toBe(2);
  });

  it("sends a change on the revision it was made on where somebody changed the same meanwhile", () => {
    const state = after(
      changed(1, { bpc: false }),
      changed(2, { intent: "relative" }),
      answered(1, at(3, { bpc: false, intent: "absolute" })),
    );
    expect(state.pending).toEqual([{ id: 2, patch: { intent: "relative" }, match: 1 }]);
    const alone = after(
      changed(1, { bpc: false }),
      changed(2, { intent: "relative" }),
      answered(1, at(2, { bpc: false })),
    );
    expect(alone.pending).toEqual([{ id: 2, patch: { intent: "relative" } }]);
  });
});
