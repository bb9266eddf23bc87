import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { offerUndo } from "./removals";
import { RemoveButton } from "./RemoveButton";
import { UndoBar } from "./UndoBar";

afterEach(() => {
  cleanup();
  offerUndo(null);
});

function shown(part: Partial<Parameters<typeof RemoveButton>[0]> = {}) {
  const calls = {
    remove: vi.fn(async () => undefined),
    restore: vi.fn(async () => undefined),
    onDone: vi.fn(),
  };
  const uses = async () => [{ kind: "folder", name: "From the office", place: "/folders" }];
  render(
    <QueryClientProvider client={new QueryClient()}>
      <RemoveButton
        label="Retire"
        name="Strict press"
        uses={uses}
        kept="They go on using it."
        {...calls}
        {...part}
      />
      <UndoBar />
    </QueryClientProvider>,
  );
  return calls;
}
const again = () =>
  screen.getAllByRole("button", { name: "Retire", hidden: true }).at(-1) as HTMLElement;

it("names what leans on it before anything happens", async () => {
  const { remove } = shown();
  fireEvent.click(screen.getByRole("button", { name: "Retire" }));
  expect(await screen.findByText("From the office")).toBeTruthy();
  expect(screen.getByText("They go on using it.")).toBeTruthy();
  expect(remove).not.toHaveBeenCalled();
  fireEvent.click(screen.getByRole("button", { name: "Keep it" }));
  await waitFor(() => expect(screen.queryByText("From the office")).toBeNull());
  expect(remove).not.toHaveBeenCalled();
});

it("can be undone after it was done", async () => {
  const { remove, restore, onDone } = shown();
  fireEvent.click(screen.getByRole("button", { name: "Retire" }));
  await screen.findByText("From the office");
  fireEvent.click(again());
  await waitFor(() =>
    expect(screen.getByRole("status", { name: "Removed" }).textContent).toContain(
      "Strict press was removed.",
    ),
  );
  expect(remove).toHaveBeenCalledOnce();
  fireEvent.click(screen.getByRole("button", { name: "Undo", hidden: true }));
  await waitFor(() => expect(screen.queryByRole("status", { name: "Removed" })).toBeNull());
  expect(restore).toHaveBeenCalledOnce();
  expect(onDone).toHaveBeenCalledTimes(2);
});

it("says why it could not be done, and offers no undo", async () => {
  shown({
    remove: async () => {
      throw new Error("Something is in the printer's queue.");
    },
  });
  fireEvent.click(screen.getByRole("button", { name: "Retire" }));
  await screen.findByText("From the office");
  fireEvent.click(again());
  expect((await screen.findByRole("alert")).textContent).toContain("in the printer's queue");
  expect(screen.queryByRole("status", { name: "Removed" })).toBeNull();
});
