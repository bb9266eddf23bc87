import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";

import { DEFAULT_LOOK } from "./look";
import { MapScale } from "./MapScale";

afterEach(cleanup);

it("stands beside maps only", () => {
  const { container } = render(<MapScale look={DEFAULT_LOOK} rule={300} />);
  expect(container.innerHTML).toBe("");
});

it("ends at 20 ΔE00 for differences and at the rule for ink", () => {
  const { rerender } = render(<MapScale look={{ ...DEFAULT_LOOK, map: "distance" }} rule={300} />);
  expect(screen.getByTestId("map-scale").textContent).toBe("020 ΔE00");
  rerender(<MapScale look={{ ...DEFAULT_LOOK, map: "tac" }} rule={300} />);
  expect(screen.getByTestId("map-scale").textContent).toBe("0300 %over");
});
