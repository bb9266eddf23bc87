import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { DEFAULT_LOOK } from "../viewer";
import { Plates } from "./Plates";

afterEach(cleanup);
const names = ["C", "M", "Y", "K"];

it("shows a plate alone when it is pressed, and leaves a map for it", () => {
  const onLook = vi.fn();
  render(<Plates names={names} look={{ ...DEFAULT_LOOK, map: "tac" }} onLook={onLook} />);
  fireEvent.click(screen.getByRole("button", { name: "Plate Y" }));
  expect(onLook).toHaveBeenCalledWith(expect.objectContaining({ plates: ["Y"], map: "" }));
});

it("offers greys for a single plate only", () => {
  const onLook = vi.fn();
  const { rerender } = render(
    <Plates names={names} look={{ ...DEFAULT_LOOK, plates: ["C", "K"] }} onLook={onLook} />,
  );
  expect(screen.getByRole("button", { name: "grey" }).hasAttribute("disabled")).toBe(true);
  rerender(<Plates names={names} look={{ ...DEFAULT_LOOK, plates: ["K"] }} onLook={onLook} />);
  fireEvent.click(screen.getByRole("button", { name: "grey" }));
  expect(onLook).toHaveBeenCalledWith(expect.objectContaining({ grey: true }));
});

it("marks what is shown for those who cannot see it", () => {
  render(
    <Plates names={names} look={{ ...DEFAULT_LOOK, plates: ["M"] }} onLook={() => undefined} />,
  );
  expect(screen.getByRole("button", { name: "Plate M" }).getAttribute("aria-pressed")).toBe("true");
  expect(screen.getByRole("button", { name: "Plate C" }).getAttribute("aria-pressed")).toBe(
    "false",
  );
});
