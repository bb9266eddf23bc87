import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, ask, type Destination } from "../../api";
import { keys } from "../../queries/keys";
import type { RecipeControl } from "../../recipe";

/** Figures of the saved recipe's plates: over every pixel, so not while a control moves. */
export function useInkFigures(destination: Destination) {
  return useQuery({
    queryKey: [...keys.inkFigures, destination.id, JSON.stringify(destination.recipe)],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/destinations/{id}/inks", {
          params: { path: { id: destination.id } },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** The darkest print and the gamut's volume, live while a control moves; what it passed is given up. */
export function useInkLimits(destination: Destination, control: RecipeControl) {
  const rules = JSON.stringify(control.recipe.ink_rules);
  return useQuery({
    queryKey: [...keys.limits, destination.id, destination.recipe.destination, rules],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/destinations/{id}/limits", {
          signal,
          params: { path: { id: destination.id }, query: { changes: `{"ink_rules":${rules}}` } },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}
