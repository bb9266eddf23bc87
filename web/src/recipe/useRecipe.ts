import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import { api, ask, type Destination, type Job, ProblemError, type Recipe } from "../api";
import { type Patch, patchBetween, RECIPE_KEYS } from "../api/patches";
import { keys } from "../queries/keys";
import { coloursOf } from "./colours";
import { begin, type RecipeEvent, recipeReducer, settledRecipe, shownRecipe } from "./recipeState";

export type Changes = Partial<Omit<Recipe, "page" | "destination" | "delivery">> & {
  delivery?: Partial<Recipe["delivery"]>;
};

/** A change that somebody else's collided with; it can be sent again on the newer revision. */
export interface Clash {
  problem: ProblemError;
  patch: Patch;
}

/** The recipe being worked on: live while a control moves, saved when it rests, undoable. */
export function useRecipe(job: Job, destination: Destination) {
  const client = useQueryClient();
  const [state, setState] = useState(() => begin(destination));
  const [error, setError] = useState<Error | null>(null);
  const [clash, setClash] = useState<Clash | null>(null);
  // The newest state, also before it is drawn: what comes next starts from it.
  const latest = useRef(state);
  const apply = useCallback((event: RecipeEvent) => {
    latest.current = recipeReducer(latest.current, event);
    setState(latest.current);
  }, []);
  useEffect(() => apply({ type: "seen", destination }), [destination, apply]);
  const put = useCallback(
    (changed: Destination) =>
      client.setQueryData<Job>(
        [...keys.jobs, job.id],
        (old) =>
          old && {
            ...old,
            destinations: old.destinations.map((d) =>
              d.id === changed.id && d.revision <= changed.revision ? changed : d,
            ),
          },
      ),
    [client, job.id],
  );
  const path = { params: { path: { id: destination.id } } };
  const measure = useMutation({
    mutationFn: () => ask(api.POST("/api/destinations/{id}/facts", path)),
    onSuccess: (measured) => {
      put(measured);
      apply({ type: "seen", destination: measured });
    },
  });
  const { mutate: measureOnce } = measure;
  // One after the other, in the order they were made; each waits for the answer of the one before.
  const line = useRef<Promise<void>>(Promise.resolve());
  const next = useRef(0);
  const send = (
    id: number,
    call: (revision: number) => Promise<Destination>,
    patch: Patch | null,
  ) => {
    line.current = line.current.then(async () => {
      const waiting = latest.current.pending.find((p) => p.id === id);
      try {
        const changed = await call(waiting?.match ?? latest.current.base.revision);
        apply({ type: "answered", id, destination: changed });
        put(changed);
        if (!changed.facts.intent && latest.current.pending.length === 0) measureOnce();
      } catch (caught) {
        const problem = caught instanceof Error ? caught : new Error(String(caught));
        apply({ type: "refused", id });
        if (patch && problem instanceof ProblemError && problem.problem.fields.length > 0)
          setClash({ problem, patch });
        else setError(problem);
        void client.invalidateQueries({ queryKey: [...keys.jobs, job.id] });
      }
    });
  };
  const change = (patch: Patch, anyway = false) => {
    const id = ++next.current;
    apply({ type: "changed", id, patch });
    send(
      id,
      (revision) =>
        ask(
          api.PATCH("/api/destinations/{id}", {
            ...path,
            body: patch as never,
            ...(!anyway && { headers: { "If-Match": `"${revision}"` } }),
          }),
        ),
      patch,
    );
  };
  const step = (way: "undo" | "redo") => {
    const id = ++next.current;
    apply({ type: "stepped", id });
    send(
      id,
      () =>
        ask(
          api.POST("/api/destinations/{id}/{step}", {
            params: { path: { id: String(destination.id), step: way } },
          } as never),
        ),
      null,
    );
  };
  const recipe = useMemo(() => shownRecipe(state), [state]);
  const between = (changes: Changes) =>
    patchBetween(settledRecipe(latest.current), changes as Patch, RECIPE_KEYS);
  return {
    /** The destination by the newest answer. */
    destination: state.base,
    recipe,
    /** The recipe as it is now, also to what was begun before its last change. */
    now: () => settledRecipe(latest.current),
    /** All that decides colours, saved or not, as JSON: an address made with it never goes stale. */
    colours: coloursOf(recipe),
    /** Whether every change has been answered. */
    saved: state.pending.length === 0,
    /** Resolves when every change made so far has been answered. */
    settled: () => line.current,
    /** Shows a change without saving it. */
    preview: (changes: Changes) => apply({ type: "previewed", patch: between(changes) }),
    /** Saves a change; it is shown meanwhile. */
    commit: (changes: Changes) => {
      const patch = between(changes);
      if (Object.keys(patch).length > 0) change(patch);
      else apply({ type: "previewed", patch: null });
    },
    undo: () => {
      if (state.base.can_undo || !(state.pending.length === 0)) step("undo");
    },
    redo: () => {
      if (state.base.can_redo) step("redo");
    },
    measureOnce,
    measuring: measure.isPending,
    measuringFailed: measure.error,
    error,
    /** Says that something which was to change the recipe could not be had. */
    fail: setError,
    clash,
    /** Sends the change that collided once more, over what is there now. */
    insist: () => {
      if (clash) change(clash.patch, true);
      setClash(null);
    },
    dismiss: () => {
      setError(null);
      setClash(null);
    },
  };
}

export type RecipeControl = ReturnType<typeof useRecipe>;
