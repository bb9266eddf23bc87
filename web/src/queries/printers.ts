import { queryOptions } from "@tanstack/react-query";

import { api, ask, type MediumChange } from "../api";
import { keys } from "./keys";

export const printersQuery = queryOptions({
  queryKey: keys.printers,
  queryFn: () => ask(api.GET("/api/printers")),
  refetchInterval: 2000,
});

/** What the guard would say of a medium as it is being edited. */
export const judgedQuery = (draft: MediumChange) =>
  queryOptions({
    queryKey: [...keys.judged, draft],
    queryFn: () => ask(api.POST("/api/media/judge", { body: draft })),
    staleTime: Infinity,
    retry: false,
  });
