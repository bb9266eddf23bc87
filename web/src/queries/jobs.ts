import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "./keys";

export const jobsQuery = queryOptions({
  queryKey: keys.jobs,
  queryFn: () => ask(api.GET("/api/jobs")),
});

export const jobQuery = (id: number) =>
  queryOptions({
    queryKey: [...keys.jobs, id],
    queryFn: () => ask(api.GET("/api/jobs/{id}", { params: { path: { id } } })),
  });

export const tablesQuery = queryOptions({
  queryKey: keys.tables,
  queryFn: () => ask(api.GET("/api/tables")),
  staleTime: 30_000,
});

export const inkRulesQuery = queryOptions({
  queryKey: keys.inkRules,
  queryFn: () => ask(api.GET("/api/ink-rules")),
  staleTime: 30_000,
});

export const houseRulesQuery = queryOptions({
  queryKey: keys.houseRules,
  queryFn: () => ask(api.GET("/api/house-rules")),
});
