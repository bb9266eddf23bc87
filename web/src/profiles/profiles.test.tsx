import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import type { Examination, Profile } from "../api";
import { said } from "../api/said";
import { labText, number } from "../ui/numbers";
import { GivesBack } from "./GivesBack";
import { indexAt, NeutralsPlot, reachOf } from "./NeutralsPlot";
import { answers } from "./ProfilesPage";
import { Wrong } from "./Wrong";

afterEach(cleanup);

const PATH = {
  asked: [100, 50, 0],
  inks: { C: [0, 40, 70], M: [0, 30, 60], Y: [0, 30, 60], K: [0, 10, 90] },
  total: [0, 110, 280],
  printed: [
    [100, 0, 0],
    [52, 1.5, -2],
    [12, 0, 0],
  ],
  figures: { chroma_mean: 0.8, chroma_max: 2.5, worst: 50, turns: 0, lightness_back: 0 },
};

it("reads every figure of a grey under the hairline", () => {
  render(<NeutralsPlot name="Press" data={PATH} at={49} onAt={vi.fn()} />);
  const text = screen.getByTestId("greys-at").textContent;
  for (const part of [
    "L* 50.0",
    "L* 52.0",
    "a* 1.5",
    "b* −2.0",
    "C* 2.5",
    "C 40.0",
    "K 10.0",
    "total 110.0 %",
  ])
    expect(text).toContain(part);
});

it("draws a span that holds the path", () => {
  expect(reachOf(PATH.printed)).toBe(5);
  expect(reachOf([[50, 0, -11]])).toBe(20);
  expect(indexAt([100, 50, 0], 76)).toBe(0);
});

const found = { findings: [], round_trip: null, smoothness: null } as unknown as Examination;

it("says that nothing is wrong only where nothing is", () => {
  const { rerender } = render(<Wrong found={found} />);
  expect(screen.getByRole("status").textContent).toContain("Nothing was found wrong");
  rerender(
    <Wrong
      found={
        {
          ...found,
          findings: [
            { code: "cast", severity: "warning", sentence: said("Greys print coloured.") },
            { code: "black-back", severity: "error", sentence: said("Black falls.") },
          ],
        } as Examination
      }
    />,
  );
  expect(screen.queryByRole("status")).toBeNull();
  expect(screen.getAllByRole("group").map((g) => g.getAttribute("aria-label"))).toEqual([
    "Cannot be trusted",
    "Look at it",
  ]);
});

it("has no round trip where a way is missing", () => {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <GivesBack found={found} profile={1} />
    </QueryClientProvider>,
  );
  expect(screen.getByText(/nothing can come back/)).toBeTruthy();
});

it.each([
  ["press cmyk", true],
  ["uploaded", false],
  ["received 2019", true],
  ["RGB", false],
])("searches %s", (typed, hit) => {
  const profile = {
    description: "My press",
    colour_space: "CMYK",
    device_class: "output",
    origin: "uploaded",
    facts: { maker: "ABCD", created: "2019-02-03" },
  } as unknown as Profile;
  expect(answers(profile, typed)).toBe(hit);
});

it("writes numbers with a real minus and no minus zero", () => {
  expect(number(-0.04)).toBe("0.0");
  expect(number(-1.25, 2)).toBe("−1.25");
  expect(labText([50, -1, 0])).toBe("50.0\u2002−1.0\u20020.0");
});
