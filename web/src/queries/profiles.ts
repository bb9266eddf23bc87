import { queryOptions } from "@tanstack/react-query";

import { api, ask, type Intent } from "../api";
import { keys } from "./keys";

/** How neutrals are asked for: one and the same intent and BPC for all profiles that are compared. */
export interface Asked {
  intent: Intent;
  bpc: boolean;
}

export const aimsQuery = queryOptions({
  queryKey: keys.aims,
  queryFn: () => ask(api.GET("/api/aims")),
});

/** What is judged by, as the API takes it: "profile:7", "kept:3", "" for nothing. */
export function aimAsked(aim: string): { aim?: number; kept_aim?: number } {
  const [kind, id] = aim.split(":");
  if (!id) return {};
  return kind === "kept" ? { kept_aim: Number(id) } : { aim: Number(id) };
}

/** revision : of a kept aim, so that changed numbers are asked for anew. */
export const examinationQuery = (id: number, tac: number | null, aim: string, revision = 0) =>
  queryOptions({
    queryKey: [...keys.profiles, id, "examination", tac, aim, revision],
    queryFn: () =>
      ask(
        api.GET("/api/profiles/{id}/examination", {
          params: {
            path: { id },
            query: { ...(tac === null ? {} : { tac }), ...aimAsked(aim) },
          },
        }),
      ),
    staleTime: Infinity,
  });

export const neutralsQuery = (id: number, { intent, bpc }: Asked) =>
  queryOptions({
    queryKey: [...keys.profiles, id, "neutrals", intent, bpc],
    queryFn: () =>
      ask(
        api.GET("/api/profiles/{id}/neutrals", {
          params: { path: { id }, query: { intent, bpc } },
        }),
      ),
    staleTime: Infinity,
  });

export const pictureTripQuery = (job: number, profile: number) =>
  queryOptions({
    queryKey: [...keys.profiles, profile, "round-trip", job],
    queryFn: () =>
      ask(
        api.GET("/api/jobs/{id}/round-trip", { params: { path: { id: job }, query: { profile } } }),
      ),
    staleTime: 60_000,
  });

export const tagsQuery = (id: number) =>
  queryOptions({
    queryKey: [...keys.profiles, id, "tags"],
    queryFn: () => ask(api.GET("/api/profiles/{id}/tags", { params: { path: { id } } })),
    staleTime: Infinity,
  });

export const tagQuery = (id: number, tag: string) =>
  queryOptions({
    queryKey: [...keys.profiles, id, "tags", tag],
    queryFn: () => ask(api.GET("/api/profiles/{id}/tags/{tag}", { params: { path: { id, tag } } })),
    staleTime: Infinity,
  });
