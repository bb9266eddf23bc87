import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api, ask, type PathStep } from "../api";
import { keys } from "./keys";

export const swatchListsQuery = queryOptions({
  queryKey: keys.swatches,
  queryFn: () => ask(api.GET("/api/swatch-lists")),
});

export const swatchListQuery = (id: number) =>
  queryOptions({
    queryKey: [...keys.swatches, id],
    queryFn: () => ask(api.GET("/api/swatch-lists/{id}", { params: { path: { id } } })),
  });

export const keptPathsQuery = queryOptions({
  queryKey: keys.paths,
  queryFn: () => ask(api.GET("/api/colour-paths")),
});

/** What a path begins with and how its colours are looked at. */
export interface Following {
  steps: PathStep[];
  list: number | null;
  job: number | null;
  /** The outermost numbers of the first step's device, in place of list and job. */
  bar?: boolean;
  view: "paper" | "absolute";
}

/** Which steps are compared, and which rows are shown in which order. */
export interface Rows {
  first: number | null;
  second: number | null;
  formula: "2000" | "1976" | "1994" | "CMC" | "lightness" | "chroma" | "hue";
  thresholds: number[];
  sort: "row" | "name" | "difference" | "lightness" | "chroma" | "hue" | "total";
  descending: boolean;
  text: string;
  beyond: number;
}

export const WINDOW = 100;

const begins = ({ steps, list, job, bar, view }: Following) => ({
  path: JSON.stringify({ steps }),
  ...(bar && { bar }),
  ...(list !== null && { list }),
  ...(job !== null && { job }),
  view,
});

/** All colours in the order of their list, as a picture's marks need them. */
export const AS_LISTED: Rows = {
  first: null,
  second: null,
  formula: "2000",
  thresholds: [1],
  sort: "row",
  descending: false,
  text: "",
  beyond: 0,
};
/** As many rows as one answer may hold. */
export const MOST_ROWS = 500;

/** One window of rows, with the figures of all of them. */
export const followedQuery = (following: Following, rows: Rows, start: number, count = WINDOW) =>
  queryOptions({
    queryKey: [...keys.paths, "followed", following, rows, start, count],
    queryFn: () =>
      ask(
        api.GET("/api/colour-paths/followed", {
          params: {
            query: {
              ...begins(following),
              ...(rows.first !== null && { first: rows.first }),
              ...(rows.second !== null && { second: rows.second }),
              formula: rows.formula,
              thresholds: rows.thresholds.join(","),
              sort: rows.sort,
              descending: rows.descending,
              text: rows.text,
              beyond: rows.beyond,
              start,
              count,
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    retry: false,
  });

/** The address of the artwork after a step, or of the map of two steps' difference; all of it with so many
 * pixels at its longer edge, or a region. */
export function pictureAddress(
  following: Following,
  job: number,
  shown: { step: number } | { first: number; second: number; formula: string },
  part:
    number | { box: { x: number; y: number; w: number; h: number }; columns: number; rows: number },
): string {
  const query = new URLSearchParams({
    path: JSON.stringify({ steps: following.steps }),
    job: String(job),
    view: following.view,
    ...(typeof part === "number"
      ? { edge: String(part) }
      : {
          box: [part.box.x, part.box.y, part.box.w, part.box.h].join(","),
          columns: String(part.columns),
          rows: String(part.rows),
        }),
    ...Object.fromEntries(Object.entries(shown).map(([k, v]) => [k, String(v)])),
  });
  return `/api/colour-paths/picture?${query}`;
}

/** The address of the whole table, all steps beside each other. */
export const tableAddress = (following: Following) =>
  `/api/colour-paths/table?${new URLSearchParams(
    Object.entries(begins(following)).map(([k, v]) => [k, String(v)]),
  )}`;
