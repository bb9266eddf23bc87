import { afterEach, expect, it } from "vitest";

import { ask, asProblem, csrfToken, ProblemError } from "./client";

afterEach(() => {
  document.cookie = "csrftoken=; max-age=0";
});

it("reads the CSRF token among other cookies", () => {
  document.cookie = "a=1";
  document.cookie = "csrftoken=secret";
  expect(csrfToken()).toBe("secret");
});

it("gives the data of a good answer", async () => {
  const call = Promise.resolve({ data: { x: 1 }, response: new Response(null, { status: 200 }) });
  await expect(ask(call)).resolves.toEqual({ x: 1 });
});

it("turns a problem into an error with its sentence and remedy", async () => {
  const error = { title: "The picture is empty.", remedy: "Send another.", code: "bad-image" };
  const call = Promise.resolve({ error, response: new Response(null, { status: 400 }) });
  await expect(ask(call)).rejects.toThrow("The picture is empty. Send another.");
});

it("says when the server does not answer", async () => {
  const found: unknown = await ask(Promise.reject(new TypeError("fetch"))).catch((e: unknown) => e);
  expect(found).toBeInstanceOf(ProblemError);
  expect((found as ProblemError).problem.code).toBe("unreachable");
});

it("makes a sentence of an answer that has none", () => {
  expect(asProblem("<html>", 502).title).toContain("502");
});
