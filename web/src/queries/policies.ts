import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "./keys";

export const policiesQuery = queryOptions({
  queryKey: keys.policies,
  queryFn: () => ask(api.GET("/api/policies")),
});
export const documentsQuery = queryOptions({
  queryKey: keys.documents,
  queryFn: () => ask(api.GET("/api/documents")),
});

/** A run, asked for until it has ended. */
export const runQuery = (id: number | null) =>
  queryOptions({
    queryKey: [...keys.policyRuns, id],
    queryFn: () => ask(api.GET("/api/policy-runs/{id}", { params: { path: { id: id ?? 0 } } })),
    enabled: id !== null,
    refetchInterval: (query) =>
      ["waiting", "running"].includes(query.state.data?.state ?? "waiting") ? 400 : false,
  });

/** Every version of a policy; a new one makes the list stale. */
export const versionsQuery = (id: number, newest: number) =>
  queryOptions({
    queryKey: [...keys.policies, id, "versions", newest],
    queryFn: () => ask(api.GET("/api/policies/{id}/versions", { params: { path: { id } } })),
  });

/** A comparison on recent documents, asked for until it has ended. */
export const comparisonQuery = (id: number | null) =>
  queryOptions({
    queryKey: [...keys.policyComparisons, id],
    queryFn: () =>
      ask(api.GET("/api/policy-comparisons/{id}", { params: { path: { id: id ?? 0 } } })),
    enabled: id !== null,
    refetchInterval: (query) =>
      ["waiting", "running"].includes(query.state.data?.state ?? "waiting") ? 400 : false,
  });

/** The plates of a page under a run's policy. */
export const platesQuery = (run: number, page: number) =>
  queryOptions({
    queryKey: [...keys.policyRuns, run, "plates", page],
    queryFn: () =>
      ask(
        api.GET("/api/policy-runs/{id}/pages/{page}/plates", {
          params: { path: { id: run, page } },
        }),
      ),
    staleTime: Infinity,
    retry: false,
  });

/** The preflight checks there are; they change only with the program. */
export const checksQuery = queryOptions({
  queryKey: [...keys.policies, "checks"],
  queryFn: () => ask(api.GET("/api/policies/checks")),
  staleTime: Infinity,
});
