import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";

export const policiesQuery = queryOptions({ queryKey: ["policies"], queryFn: () => ask(api.GET("/api/policies")) });
export const documentsQuery = queryOptions({ queryKey: ["documents"], queryFn: () => ask(api.GET("/api/documents")) });

/** A run, asked for until it has ended. */
export const runQuery = (id: number | null) =>
  queryOptions({
    queryKey: ["policy-runs", id],
    queryFn: () => ask(api.GET("/api/policy-runs/{id}", { params: { path: { id: id ?? 0 } } })),
    enabled: id !== null,
    refetchInterval: (query) => (["waiting", "running"].includes(query.state.data?.state ?? "waiting") ? 400 : false),
  });
