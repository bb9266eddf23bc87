import createClient from "openapi-fetch";

import type { paths } from "./schema";

/** A failure as the server words it (RFC 9457). */
export interface Problem {
  status: number;
  code: string;
  title: string;
  remedy: string;
}

export class ProblemError extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super([problem.title, problem.remedy].filter(Boolean).join(" "));
    this.problem = problem;
  }
}

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

export const api = createClient<paths>({ baseUrl: "", credentials: "same-origin" });

api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
});

const UNREACHABLE: Problem = {
  status: 0,
  code: "unreachable",
  title: "The Plinto server does not answer.",
  remedy: "Check that it is running; nothing you saved is lost.",
};

/** The data of a call, or a ProblemError with a sentence to show. */
export async function ask<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const result = await call.catch(() => null);
  if (!result) throw new ProblemError(UNREACHABLE);
  if (result.response.ok) return result.data as T;
  throw new ProblemError(asProblem(result.error, result.response.status));
}

export function asProblem(error: unknown, status: number): Problem {
  if (typeof error === "object" && error !== null && "title" in error) {
    const given = error as Partial<Problem>;
    return { status, code: given.code ?? "", title: String(given.title), remedy: given.remedy ?? "" };
  }
  return { status, code: "unexpected", title: `The server answered with status ${status}.`, remedy: "" };
}
