import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { ProblemError } from "../api";
import { Notice } from "./Notice";

afterEach(cleanup);

it("says what happened and what to do, as an alert", () => {
  const problem = new ProblemError({
    status: 400,
    code: "bad-image",
    title: "The picture is truncated.",
    remedy: "Use an intact copy.",
    fields: [],
    errors: [],
  });
  render(<Notice problem={problem} />);
  const alert = screen.getByRole("alert");
  expect(alert.textContent).toContain("The picture is truncated.");
  expect(alert.textContent).toContain("Use an intact copy.");
  expect(screen.queryByRole("button")).toBeNull();
});

it("offers another try and a way out where there are any", () => {
  const retry = vi.fn();
  const dismiss = vi.fn();
  render(<Notice problem={new Error("No answer.")} onRetry={retry} onDismiss={dismiss} />);
  fireEvent.click(screen.getByRole("button", { name: "Try again" }));
  fireEvent.click(screen.getByRole("button", { name: "Close" }));
  expect(retry).toHaveBeenCalledOnce();
  expect(dismiss).toHaveBeenCalledOnce();
});
