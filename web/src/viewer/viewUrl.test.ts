import { expect, it } from "vitest";

import { DEFAULT_LOOK } from "./look";
import { viewUrl } from "./viewUrl";

const request = {
  destination: 7,
  box: { x: 1, y: 2, w: 30, h: 40 },
  columns: 300,
  rows: 400,
  colours: '{"intent":"relative"}',
  look: { ...DEFAULT_LOOK, veilOn: true, veil: "#12ab34", plays: "paper" as const },
};

it("names the region, the look and the colours of a press view", () => {
  const url = new URL(viewUrl({ ...request, pane: "proof" }), "http://x");
  expect(url.pathname).toBe("/api/destinations/7/view.png");
  expect(Object.fromEntries(url.searchParams)).toEqual({
    pane: "proof",
    x: "1.00",
    y: "2.00",
    w: "30.00",
    h: "40.00",
    columns: "300",
    rows: "400",
    plays: "paper",
    veil: "12ab34",
    changes: '{"intent":"relative"}',
  });
});

it("leaves the print's look out of the original's address, so that it is fetched once", () => {
  const one = viewUrl({ ...request, pane: "original" });
  const two = viewUrl({
    ...request,
    pane: "original",
    look: { ...DEFAULT_LOOK, plays: "colours" },
  });
  expect(one).toBe(two);
});
