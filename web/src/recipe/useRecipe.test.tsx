import { notifyManager, QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, render, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { api, type Destination, type Job } from "../api";
import { type RecipeControl, useRecipe } from "./useRecipe";

const DESTINATION = {
  id: 7,
  revision: 1,
  recipe: { intent: "perceptual", bpc: true, delivery: {} },
  facts: { intent: "perceptual" },
  can_undo: true,
} as unknown as Destination;
const JOB = { id: 1, destinations: [DESTINATION] } as unknown as Job;

afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
  notifyManager.setScheduler((tell) => setTimeout(tell, 0));
});

/** The hook as the job's page uses it: with what the cache holds, and every value it ever showed. */
function workingOn(answer: (sent: object) => object) {
  const reply = async (_path: string, options: { body?: object }) => {
    await new Promise((done) => setTimeout(done, 5));
    const data = {
      ...DESTINATION,
      recipe: { ...DESTINATION.recipe, ...answer(options.body ?? {}) },
    };
    return { data, response: new Response() };
  };
  vi.spyOn(api, "PATCH").mockImplementation(reply as never);
  vi.spyOn(api, "POST").mockImplementation(reply as never);
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
  client.setQueryData(["jobs", 1], JOB);
  const shown: string[] = [];
  const result = {} as { control: RecipeControl; cached: string };
  // The page reads the cache and hands the destination down, as the job's page does.
  function Inner({ job, destination }: { job: Job; destination: Destination }) {
    result.control = useRecipe(job, destination);
    result.cached = destination.recipe.intent;
    shown.push(result.control.recipe.intent);
    return null;
  }
  function Page() {
    const { data = JOB } = useQuery({ queryKey: ["jobs", 1], queryFn: () => JOB });
    return <Inner job={data} destination={data.destinations[0] ?? DESTINATION} />;
  }
  render(
    <QueryClientProvider client={client}>
      <Page />
    </QueryClientProvider>,
  );
  return { result, shown };
}

it("never shows the old value again once a change was made", async () => {
  const { result, shown } = workingOn((sent) => sent);
  // As in a busy browser: the cache tells its readers late, and nothing gathers what is drawn.
  notifyManager.setScheduler((tell) => setTimeout(tell, 30));
  vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", false);
  result.control.commit({ intent: "relative" });
  await new Promise((done) => setTimeout(done, 150));
  expect(result.cached).toBe("relative");
  expect(result.control.saved).toBe(true);
  expect(shown.slice(shown.indexOf("relative"))).not.toContain("perceptual");
});

it("shows what the server made of a change", async () => {
  const { result } = workingOn(() => ({ intent: "saturation" }));
  act(() => result.control.commit({ intent: "relative" }));
  await waitFor(() => expect(result.control.recipe.intent).toBe("saturation"));
});

it("follows an undo after a change", async () => {
  const { result } = workingOn((sent) => sent);
  act(() => result.control.commit({ intent: "relative" }));
  await waitFor(() => expect(result.cached).toBe("relative"));
  act(() => {
    result.control.undo();
  });
  await waitFor(() => expect(result.control.recipe.intent).toBe("perceptual"));
  await waitFor(() => expect(result.control.saved).toBe(true));
});
