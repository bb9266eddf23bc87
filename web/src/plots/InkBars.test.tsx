import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";

import { InkBars } from "./InkBars";
import { InkRampPlot, spread } from "./InkRampPlot";
import { INK_DASHES } from "./inks";

afterEach(cleanup);

it("shows every ink with one decimal, also inks without a colour of their own", () => {
  render(<InkBars inks={{ C: 12.34, K: 100, "5": 7 }} />);
  for (const text of ["C", "12.3", "K", "100.0", "5", "7.0"])
    expect(screen.getByText(text)).toBeTruthy();
});

it("draws one curve an ink and tells them apart without colour", () => {
  const { container } = render(
    <InkRampPlot
      label="Greys"
      axis={{
        print_chroma: [],
        lightness: [0, 50, 100],
        print_lightness: [8, 50, 100],
        inks: { C: [60, 30, 0], M: [50, 20, 0], Y: [50, 20, 0], K: [95, 10, 0] },
      }}
    />,
  );
  const lines = [...container.querySelectorAll("polyline")];
  expect(lines).toHaveLength(4);
  expect(new Set(lines.map((l) => l.getAttribute("stroke-dasharray"))).size).toBe(4);
  expect(new Set(Object.values(INK_DASHES)).size).toBe(4);
});

it("keeps curve labels apart and in order", () => {
  expect(spread([50, 52, 10, 51], 12)).toEqual([50, 74, 10, 62]);
});
