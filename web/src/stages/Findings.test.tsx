import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";

import { said } from "../api/said";
import { Findings } from "./Findings";

afterEach(cleanup);

it("says how grave each finding is, in words", () => {
  render(
    <Findings
      findings={[
        { level: "stop", code: "a", text: said("No size.") },
        { level: "attention", code: "b", text: said("Not mirrored.") },
        { level: "note", code: "c", text: said("One page of two.") },
      ]}
    />,
  );
  expect(screen.getAllByRole("listitem").map((li) => li.textContent)).toEqual([
    "Stops. No size.",
    "Attention. Not mirrored.",
    "Note. One page of two.",
  ]);
});

it("says so where there is nothing to say, or stays away", () => {
  const { container, rerender } = render(<Findings findings={[]} />);
  expect(container.innerHTML).toBe("");
  rerender(<Findings findings={[]} none="No surprises." />);
  expect(screen.getByText("No surprises.")).toBeTruthy();
});
