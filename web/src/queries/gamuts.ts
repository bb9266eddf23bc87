import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, ask, type GamutSight } from "../api";
import { keys } from "./keys";

/** Bodies and clouds looked at in one way; what stood there stays until the next has come. */
export const gamutsQuery = (of: string[], sight: GamutSight, tac: number | null) =>
  queryOptions({
    queryKey: [...keys.gamuts, of, sight, tac],
    queryFn: () =>
      ask(
        api.GET("/api/gamuts", {
          params: { query: { of, sight, ...(tac !== null && { tac }) } },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  });

/** Where in a job's picture a colour is. */
export const whereQuery = (job: number, [l, a, b]: [number, number, number]) =>
  queryOptions({
    queryKey: [...keys.gamuts, "where", job, l, a, b],
    queryFn: () => ask(api.GET("/api/gamuts/where", { params: { query: { job, l, a, b } } })),
    staleTime: 60_000,
    retry: false,
  });
