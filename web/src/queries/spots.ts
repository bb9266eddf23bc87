import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "./keys";

/** What builds are sought for, and how. */
export interface Sought {
  list: number | null;
  /** One colour to be tried, as typed, in place of a list. */
  colour: string;
  inks: number;
  gain: number;
  /** Percent; null for each condition's own. */
  least: number | null;
  white: "absolute" | "relative";
}

const query = ({ list, colour, least, ...rest }: Sought) => ({
  ...rest,
  ...(list !== null ? { list } : { colour }),
  ...(least !== null && { least }),
});

/** revision : of the list's colours and of the condition, so that changes are asked for anew. */
export const buildsQuery = (sought: Sought, condition: number, revision: string) =>
  queryOptions({
    queryKey: [...keys.spots, sought, condition, revision],
    queryFn: () =>
      ask(
        api.GET("/api/spot-builds", {
          params: { query: { ...query(sought), condition } },
        }),
      ),
    enabled: sought.list !== null || sought.colour !== "",
    staleTime: 300_000,
    retry: false,
  });

/** The address of all builds as CSV. */
export const buildsAddress = (sought: Sought, conditions: number[]) =>
  `/api/spot-builds/table?${new URLSearchParams({
    ...Object.fromEntries(Object.entries(query(sought)).map(([k, v]) => [k, String(v)])),
    conditions: conditions.join(","),
  })}`;
