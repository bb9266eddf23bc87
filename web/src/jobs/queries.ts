import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";

export const jobsQuery = queryOptions({ queryKey: ["jobs"], queryFn: () => ask(api.GET("/api/jobs")) });

export const jobQuery = (id: number) =>
  queryOptions({
    queryKey: ["jobs", id],
    queryFn: () => ask(api.GET("/api/jobs/{id}", { params: { path: { id } } })),
  });

export const conditionsQuery = queryOptions({
  queryKey: ["conditions"],
  queryFn: () => ask(api.GET("/api/conditions")),
  staleTime: 60_000,
});

export const profilesQuery = queryOptions({
  queryKey: ["profiles"],
  queryFn: () => ask(api.GET("/api/profiles")),
  staleTime: 30_000,
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
