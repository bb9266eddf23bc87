import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";

export const jobsQuery = queryOptions({
  queryKey: ["jobs"],
  queryFn: () => ask(api.GET("/api/jobs")),
});

export const jobQuery = (id: number) =>
  queryOptions({
    queryKey: ["jobs", id],
    queryFn: () => ask(api.GET("/api/jobs/{id}", { params: { path: { id } } })),
  });

export const tablesQuery = queryOptions({
  queryKey: ["tables"],
  queryFn: () => ask(api.GET("/api/tables")),
  staleTime: 30_000,
});

export const inkRulesQuery = queryOptions({
  queryKey: ["ink-rules"],
  queryFn: () => ask(api.GET("/api/ink-rules")),
  staleTime: 30_000,
});

export const houseRulesQuery = queryOptions({
  queryKey: ["house-rules"],
  queryFn: () => ask(api.GET("/api/house-rules")),
});
