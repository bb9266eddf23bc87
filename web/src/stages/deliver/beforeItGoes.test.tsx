import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { api } from "../../api";
import type { StageProps } from "../StageRail";
import { BeforeItGoes, useCheck } from "./BeforeItGoes";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const NONE = "Nothing here would surprise the receiver.";

function Deliver({ control, id = 3 }: { control: object; id?: number }) {
  const props = { job: { question: "" }, destination: { id }, control } as unknown as StageProps;
  const check = useCheck(props, 0);
  return (
    <>
      <BeforeItGoes check={check} />
      <output>{check.state}</output>
    </>
  );
}

function page(answer: () => Promise<unknown>) {
  const get = vi.spyOn(api, "GET").mockImplementation(answer as never);
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const shown = (control: object, id?: number) => (
    <QueryClientProvider client={client}>
      <Deliver control={control} {...(id && { id })} />
    </QueryClientProvider>
  );
  return { get, shown };
}

const answered = (measured: boolean) => async () => ({
  data: { file_name: "a.tif", measured, findings: [] },
  response: new Response(),
});
const measureOnce = vi.fn();
const SETTLED = { saved: true, measuring: false, measuringFailed: null, measureOnce };
const output = () => document.querySelector("output")?.textContent;

it("says that nothing surprises only when all is known", async () => {
  const { shown } = page(answered(true));
  render(shown(SETTLED));
  expect(output()).toBe("checking");
  expect(screen.queryByText(NONE)).toBeNull();
  await waitFor(() => expect(output()).toBe("found"));
  expect(screen.getByText(NONE)).toBeTruthy();
});

it("is being checked while figures are missing or a change is on its way", async () => {
  const { get, shown } = page(answered(false));
  const { rerender } = render(shown(SETTLED));
  await waitFor(() => expect(get).toHaveBeenCalled());
  expect(output()).toBe("checking");
  await waitFor(() => expect(measureOnce).toHaveBeenCalledOnce());
  get.mockImplementation(answered(true) as never);
  rerender(shown(SETTLED, 4));
  await waitFor(() => expect(output()).toBe("found"));
  rerender(shown({ ...SETTLED, saved: false }, 4));
  expect(output()).toBe("checking");
  expect(screen.queryByText(NONE)).toBeNull();
});

it("says that it could not be checked, and tries again", async () => {
  const { get, shown } = page(async () => {
    throw new Error("away");
  });
  render(shown(SETTLED));
  await waitFor(() => expect(output()).toBe("failed"));
  expect(screen.queryByText(NONE)).toBeNull();
  expect(screen.getByRole("alert").textContent).toContain("does not answer");
  get.mockImplementation(answered(true) as never);
  fireEvent.click(screen.getByRole("button", { name: "Check again" }));
  await waitFor(() => expect(screen.getByText(NONE)).toBeTruthy());
});

it("could not be checked where the picture could not be measured", async () => {
  const { shown } = page(answered(false));
  render(shown({ ...SETTLED, measuringFailed: new Error("No memory.") }));
  await waitFor(() => expect(output()).toBe("failed"));
  expect(screen.getByRole("alert").textContent).toContain("No memory.");
});
