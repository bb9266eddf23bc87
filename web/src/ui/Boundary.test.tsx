import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";

import { Boundary } from "./Boundary";

// React tells the console of every error that a boundary meets.
beforeEach(() => void vi.spyOn(console, "error").mockImplementation(() => undefined));
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

let broken = true;
function Part() {
  if (broken) throw new Error("no such plate");
  return <p>whole</p>;
}

it("keeps a failure to its part and tries again", () => {
  broken = true;
  render(
    <>
      <p>the rest</p>
      <Boundary part="stage">
        <Part />
      </Boundary>
    </>,
  );
  expect(screen.getByText("the rest")).toBeTruthy();
  expect(screen.getByRole("alert").textContent).toContain("This stage failed");
  expect(screen.getByRole("alert").textContent).toContain("no such plate");
  broken = false;
  fireEvent.click(screen.getByRole("button", { name: "Try again" }));
  expect(screen.getByText("whole")).toBeTruthy();
});

it("tries anew where one goes elsewhere, and only then", () => {
  broken = true;
  const shown = (at: string) => (
    <Boundary part="page" at={at}>
      <Part />
    </Boundary>
  );
  const { rerender } = render(shown("/a"));
  broken = false;
  rerender(shown("/a"));
  expect(screen.getByRole("alert")).toBeTruthy();
  rerender(shown("/b"));
  expect(screen.getByText("whole")).toBeTruthy();
});

it("says that the application was renewed where its files are gone", () => {
  function Gone(): never {
    throw new TypeError("Failed to fetch dynamically imported module: /assets/x.js");
  }
  render(
    <Boundary part="page">
      <Gone />
    </Boundary>,
  );
  expect(screen.getByRole("alert").textContent).toContain("renewed while this page was open");
});
