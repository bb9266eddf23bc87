import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "./keys";

const OPEN = new Set(["waiting", "running"]);

export const proofsQuery = queryOptions({
  queryKey: keys.proofs,
  queryFn: () => ask(api.GET("/api/proofs")),
  refetchInterval: (query) => (query.state.data?.some((p) => OPEN.has(p.state)) ? 800 : 15_000),
});

/** One proof; asked for again while it is being made. */
export const proofQuery = (id: number) =>
  queryOptions({
    queryKey: [...keys.proofs, id],
    queryFn: () => ask(api.GET("/api/proofs/{id}", { params: { path: { id } } })),
    refetchInterval: (query) =>
      // Readings of another window or person show within a few seconds.
      query.state.data && OPEN.has(query.state.data.state) ? 600 : 4000,
    retry: false,
  });

export const readingQuery = (id: number) =>
  queryOptions({
    queryKey: [...keys.proofs, "reading", id],
    queryFn: () => ask(api.GET("/api/proof-readings/{id}", { params: { path: { id } } })),
    retry: false,
  });

export const startingTolerancesQuery = queryOptions({
  queryKey: [...keys.tolerances, "starting"],
  queryFn: () => ask(api.GET("/api/proof-tolerances/starting")),
  staleTime: Infinity,
});

export const tolerancesQuery = queryOptions({
  queryKey: keys.tolerances,
  queryFn: () => ask(api.GET("/api/proof-tolerances")),
});
