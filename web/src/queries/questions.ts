import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "./keys";

export const questionsQuery = queryOptions({
  queryKey: keys.questions,
  queryFn: () => ask(api.GET("/api/questions")),
  staleTime: Infinity,
});

/** The answer to a question with its parts, by their keys. */
export const answerQuery = (key: string, parts: Record<string, string>) =>
  queryOptions({
    queryKey: [...keys.questions, key, parts],
    queryFn: () =>
      ask(api.GET("/api/questions/{key}", { params: { path: { key }, query: parts as never } })),
    staleTime: 60_000,
    retry: false,
  });

export const answerPages = (key: string, parts: Record<string, string>) =>
  `/api/questions/${key}.pdf?${new URLSearchParams(parts)}`;
