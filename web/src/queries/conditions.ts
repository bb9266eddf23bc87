import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "./keys";

export const conditionsQuery = queryOptions({
  queryKey: keys.conditions,
  queryFn: () => ask(api.GET("/api/conditions")),
  staleTime: 60_000,
});

export const profilesQuery = queryOptions({
  queryKey: keys.profiles,
  queryFn: () => ask(api.GET("/api/profiles")),
  staleTime: 30_000,
});

/** What a profile proposes for a condition; the same profile always proposes the same. */
export const proposalQuery = (profile: number) =>
  queryOptions({
    queryKey: [...keys.profiles, profile, "proposal"],
    queryFn: () =>
      ask(api.GET("/api/profiles/{id}/proposal", { params: { path: { id: profile } } })),
    staleTime: Infinity,
  });

export const usesQuery = (condition: number) =>
  queryOptions({
    queryKey: [...keys.conditions, condition, "uses"],
    queryFn: () =>
      ask(api.GET("/api/conditions/{id}/uses", { params: { path: { id: condition } } })),
  });
