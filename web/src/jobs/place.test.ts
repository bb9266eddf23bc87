import { describe, expect, it } from "vitest";

import { placeWith } from "./place";

describe("a job's place", () => {
  it("changes one part and keeps the others as the address has them by now", () => {
    window.history.replaceState(null, "", "/jobs/3/7/inks?plate=C");
    expect(placeWith({ stage: "deliver" })).toBe("/jobs/3/7/deliver");
    expect(placeWith({ destination: 9 })).toBe("/jobs/3/9/inks");
    window.history.pushState(null, "", "/jobs/3/9/inks");
    expect(placeWith({ stage: "source" })).toBe("/jobs/3/9/source");
    window.history.replaceState(null, "", "/jobs/3/9");
    expect(placeWith({ destination: 4 })).toBe("/jobs/3/4/press-view");
  });
});
