import { queryOptions } from "@tanstack/react-query";

import { api, ask, type KeptRecord } from "../api";
import { keys } from "./keys";

/** Work under way, asked for again and again; or what has ended. */
export const queueQuery = (ended: boolean) =>
  queryOptions({
    queryKey: [...keys.queue, ended],
    queryFn: () => ask(api.GET("/api/queue", { params: { query: { ended } } })),
    refetchInterval: ended ? 3000 : 800,
  });

/** The report of a run as the core wrote it. */
export const recordQuery = (kind: string, id: number) =>
  queryOptions({
    queryKey: [...keys.queue, kind, id, "report"],
    queryFn: async () =>
      (await (await fetch(`/api/queue/${kind}/${id}/report.json`)).json()) as KeptRecord,
    staleTime: Infinity,
  });
