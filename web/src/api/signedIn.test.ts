import { afterEach, expect, it, vi } from "vitest";

import { api, ask } from "./client";
import { goOn, isWaiting, signedInAgain } from "./signedIn";

afterEach(() => {
  vi.unstubAllGlobals();
  document.cookie = "csrftoken=; max-age=0";
});

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
const until = async (what: () => boolean) => {
  while (!what()) await new Promise((done) => setTimeout(done, 5));
};

it("sends a change again once somebody has signed in again, with the new session's token", async () => {
  const sent: { token: string | null; body: string }[] = [];
  let signedIn = false;
  vi.stubGlobal("fetch", async (request: Request) => {
    sent.push({ token: request.headers.get("X-CSRFToken"), body: await request.text() });
    return signedIn
      ? json(200, { id: 7 })
      : json(403, { title: "No session.", code: "not_authenticated" });
  });
  document.cookie = "csrftoken=old";
  const call = ask(
    api.PATCH("/api/destinations/{id}", {
      params: { path: { id: 7 } },
      body: { intent: "relative" } as never,
      baseUrl: "http://localhost",
      fetch: (r: Request) => fetch(r),
    }),
  );
  await until(isWaiting);
  expect(sent).toHaveLength(1);
  signedIn = true;
  document.cookie = "csrftoken=new";
  goOn();
  await expect(call).resolves.toEqual({ id: 7 });
  expect(sent.map((s) => s.token)).toEqual(["old", "new"]);
  expect(sent[1]?.body).toBe('{"intent":"relative"}');
  expect(isWaiting()).toBe(false);
});

it("leaves other refusals and the sign-in itself alone", async () => {
  vi.stubGlobal("fetch", async (request: Request) =>
    json(403, {
      title: "No.",
      code: request.url.endsWith("session") ? "not_authenticated" : "permission_denied",
    }),
  );
  const options = { baseUrl: "http://localhost", fetch: (r: Request) => fetch(r) };
  await expect(ask(api.GET("/api/jobs", options))).rejects.toThrow("No.");
  await expect(ask(api.GET("/api/session", options))).rejects.toThrow("No.");
  expect(isWaiting()).toBe(false);
});

it("lets everybody go on who waits", async () => {
  const done: number[] = [];
  const all = Promise.all([1, 2].map((n) => signedInAgain().then(() => done.push(n))));
  goOn();
  await all;
  expect(done).toEqual([1, 2]);
});
