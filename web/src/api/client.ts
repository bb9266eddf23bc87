import createClient from "openapi-fetch";

import type { paths } from "./schema";
import { signedInAgain } from "./signedIn";

/** A field that two people changed at once. */
export interface ClashingField {
  field: string;
  theirs: unknown;
  yours: unknown;
}

/** A failure as the server words it (RFC 9457). */
export interface Problem {
  status: number;
  code: string;
  title: string;
  remedy: string;
  /** Where a change collided with somebody else's. */
  fields: ClashingField[];
  /** What is wrong with single fields of what was sent, by their names. */
  errors: FieldError[];
}

export interface FieldError {
  field: string;
  message: string;
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
/** Requests as they were sent, to be sent once more after signing in again. */
const kept = new WeakMap<Request, Request>();

api.use({
  async onRequest({ request }) {
    if (request.method !== "GET") {
      // A browser that lost its cookies signs in again; the server takes that from its own pages only.
      if (!csrfToken() && new URL(request.url, location.href).pathname === "/api/session")
        await fetch("/api/session", { credentials: "same-origin" });
      request.headers.set("X-CSRFToken", csrfToken());
    }
    kept.set(request, request.clone());
    return request;
  },
  async onResponse({ request, response }) {
    if (response.status !== 403 || new URL(request.url, location.href).pathname === "/api/session")
      return response;
    const problem = (await response
      .clone()
      .json()
      .catch(() => null)) as Partial<Problem> | null;
    const again = kept.get(request);
    if (!ended(problem) || !again) return response;
    await signedInAgain();
    const headers = new Headers(again.headers);
    if (again.method !== "GET") headers.set("X-CSRFToken", csrfToken());
    return fetch(new Request(again, { headers }));
  },
});

/** Whether a refusal means that nobody is signed in any more. */
export const ended = (problem: Partial<Problem> | null) =>
  problem?.code === "not_authenticated" || problem?.code === "authentication_failed";

const UNREACHABLE: Problem = {
  status: 0,
  code: "unreachable",
  title: "The Plinto server does not answer.",
  remedy: "Check that it is running; nothing you saved is lost.",
  fields: [],
  errors: [],
};

/** The data of a call, or a ProblemError with a sentence to show. */
export async function ask<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const result = await call.catch(() => null);
  if (!result) throw new ProblemError(UNREACHABLE);
  if (result.response.ok) return result.data as T;
  throw new ProblemError(asProblem(result.error, result.response.status));
}

export function asProblem(error: unknown, status: number): Problem {
  if (typeof error === "object" && error !== null && "title" in error) {
    const given = error as Partial<Problem>;
    return {
      status,
      code: given.code ?? "",
      title: String(given.title),
      remedy: given.remedy ?? "",
      fields: given.fields ?? [],
      errors: given.errors ?? [],
    };
  }
  return {
    status,
    code: "unexpected",
    title: `The server answered with status ${status}.`,
    remedy: "",
    fields: [],
    errors: [],
  };
}

/** Names the revision a change is made on. */
export const onRevision = (revision: number | null) =>
  revision === null ? {} : { headers: { "If-Match": `"${revision}"` } };
