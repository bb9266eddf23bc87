import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import { coloursOf } from "../viewer/layouts";
import { api, ask, type Destination, type Job, type Recipe } from "../api";

export type Changes = Partial<Omit<Recipe, "version" | "page" | "destination" | "delivery">> & {
  delivery?: Partial<Recipe["delivery"]>;
};

/** The recipe being worked on: live while a control moves, saved when it rests, undoable. */
export function useRecipe(job: Job, destination: Destination) {
  const client = useQueryClient();
  const [live, setLive] = useState<Changes>({});
  // The cache tells its readers a moment later than this hook hears the answer: until then the
  // answer itself is shown, or a key pressed in between would start from the old value.
  const [settled, setSettled] = useState<Recipe>();
  useEffect(() => setSettled(undefined), [destination.recipe]);
  const saved = settled ?? destination.recipe;
  const put = useCallback(
    (changed: Destination) => {
      client.setQueryData<Job>(["jobs", job.id], (old) =>
        old && { ...old, destinations: old.destinations.map((d) => (d.id === changed.id ? changed : d)) },
      );
    },
    [client, job.id],
  );
  const path = { params: { path: { id: destination.id } } };
  const measure = useMutation({
    mutationFn: () => ask(api.POST("/api/destinations/{id}/facts", path)),
    // Figures may arrive after the recipe has moved on; they must not bring the old one back.
    onSuccess: (measured) =>
      client.setQueryData<Job>(["jobs", job.id], (old) =>
        old && { ...old, destinations: old.destinations.map((d) => (d.id === measured.id && JSON.stringify(d.recipe) === JSON.stringify(measured.recipe) ? measured : d)) },
      ),
  });
  // Only the newest change settles: an earlier answer must not undo on screen what came after it.
  const newest = useRef(0);
  const scope = { id: `recipe-${destination.id}` };
  const settle = (changed: Destination, number: number) => {
    if (number !== newest.current) return;
    put(changed);
    setSettled(changed.recipe);
    setLive({});
    if (!changed.facts.intent) measure.mutate();
  };
  const save = useMutation({
    scope,
    mutationFn: ({ changes }: { changes: Changes; number: number }) =>
      ask(api.PATCH("/api/destinations/{id}", { ...path, body: changes as never })),
    onSuccess: (changed, { number }) => settle(changed, number),
    onError: () => {
      setLive({});
      void client.invalidateQueries({ queryKey: ["jobs", job.id] });
    },
  });
  const step = useMutation({
    scope,
    mutationFn: ({ way }: { way: "undo" | "redo"; number: number }) =>
      ask(api.POST("/api/destinations/{id}/{step}", { params: { path: { id: String(destination.id), step: way } } } as never)),
    onSuccess: (changed, { number }) => settle(changed as Destination, number),
  });
  const recipe = useMemo<Recipe>(
    () => ({ ...saved, ...live, delivery: { ...saved.delivery, ...live.delivery } }),
    [saved, live],
  );
  const changes = Object.keys(live).length ? JSON.stringify(live) : "";
  const colours = coloursOf(recipe);
  return {
    recipe,
    /** Unsaved changes as JSON for the server, empty when none. */
    changes,
    /** All that decides colours, saved or not, as JSON: an address made with it never goes stale. */
    colours,
    /** Shows a change without saving it. */
    preview: setLive,
    /** Saves a change; it is shown meanwhile. */
    commit: (next: Changes) => {
      setLive(next);
      save.mutate({ changes: next, number: ++newest.current });
    },
    undo: () => destination.can_undo && step.mutate({ way: "undo", number: ++newest.current }),
    redo: () => destination.can_redo && step.mutate({ way: "redo", number: ++newest.current }),
    measureOnce: measure.mutate,
    measuring: measure.isPending,
    error: save.error ?? step.error,
    dismiss: () => { save.reset(); step.reset(); },
  };
}

export type RecipeControl = ReturnType<typeof useRecipe>;
