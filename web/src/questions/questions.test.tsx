import { cleanup, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it } from "vitest";

import type { Answer, AskedPart, Condition, FurtherView, Profile } from "../api";
import { AnswerPlot, ticks } from "./AnswerPlot";
import { AnswerView } from "./AnswerView";
import { placeOf } from "./places";
import { firstChoice, profileChoices } from "./QuestionsPage";

afterEach(cleanup);

const condition = (id: number, name: string, space = "CMYK", process = "offset") =>
  ({ id, name, process, profile: { id: id * 10, colour_space: space } }) as unknown as Condition;
const CONDITIONS = [
  condition(1, "Coated"),
  condition(2, "News"),
  condition(3, "Proofer", "CMYK", "inkjet"),
  condition(4, "Paper", "RGB"),
];
const part = (key: string, kind: AskedPart["kind"], start = ""): AskedPart =>
  ({ key, kind, start, name: key }) as unknown as AskedPart;

describe("what plays a part", () => {
  it("is a condition by its name first, then every other examined profile, in that order", () => {
    const profiles = [
      { id: 10, description: "same as Coated", facts: { examined: true } },
      { id: 7, description: "Old press", facts: { examined: true } },
      { id: 5, description: "A link", facts: { examined: false } },
    ] as unknown as Profile[];
    expect(Object.values(profileChoices(CONDITIONS, profiles))).toEqual([
      "Coated",
      "News",
      "Proofer",
      "Paper",
      "Old press",
    ]);
  });

  it("has the names of all conditions with one profile", () => {
    const copied = [condition(1, "Own copy"), ...CONDITIONS];
    expect(Object.values(profileChoices(copied, []))[0]).toBe("Own copy / Coated");
  });

  it("starts as another profile for each part, an inkjet for a proofer", () => {
    const jobs = [{ id: 9 }];
    expect(firstChoice(part("press", "profile"), 0, CONDITIONS, jobs)).toBe("10");
    expect(firstChoice(part("second", "profile"), 1, CONDITIONS, jobs)).toBe("20");
    expect(firstChoice(part("proofer", "profile"), 1, CONDITIONS, jobs)).toBe("30");
    expect(firstChoice(part("picture", "picture"), 0, CONDITIONS, jobs)).toBe("9");
    expect(firstChoice(part("asked", "number", "300"), 0, CONDITIONS, jobs)).toBe("300");
    expect(firstChoice(part("press", "profile"), 0, [], [])).toBe("");
    const copied = [condition(1, "Own copy"), ...CONDITIONS];
    expect(firstChoice(part("second", "profile"), 1, copied, jobs)).toBe("20");
  });
});

describe("further views", () => {
  const view = (page: FurtherView["page"], of: string[], how = {}): FurtherView => ({
    label: "x",
    page,
    of,
    how,
  });
  const parts = { press: "3", proofer: "4", picture: "9" };
  const known = { sha: { "3": "aa", "4": "bb" } };
  it("open with the answer's own parts", () => {
    expect(placeOf(view("gamuts", ["press", "picture"], { sight: "absolute" }), parts, known)).toBe(
      "/gamuts?of=profile%3Aaa&of=picture%3A9&sight=absolute",
    );
    expect(placeOf(view("greys", ["proofer"]), parts, known)).toBe("/profiles/4/greys");
    expect(placeOf(view("job", ["picture"]), parts, known)).toBe("/jobs/9");
    const path = placeOf(
      view("path", ["press", "proofer"], { intent: "perceptual", bpc: "on" }),
      parts,
      known,
    );
    expect(new URLSearchParams(path.split("?")[1]).getAll("step")).toEqual([
      "profile:aa:relative",
      "profile:bb:perceptual+",
    ]);
    const absolute = placeOf(
      view("path", ["press", "proofer"], { intent: "absolute", bpc: "on" }),
      parts,
      known,
    );
    expect(absolute.endsWith("absolute")).toBe(true);
  });
});

const ANSWER = {
  question: "greys",
  asked: "Are its greys grey?",
  parts: {},
  verdict: "no",
  said: "No: C* 9.0 at L* 20 is seen as a colour.",
  more: ["Greys print coloured."],
  done: ["Greys were sent.", "They were read."],
  figures: {
    columns: ["A", "B"],
    rows: [{ label: "Paper", values: [95.25, null], unit: "L*", digits: 1 }],
  },
  plot: {
    title: "What greys print as",
    x: "L*",
    y: "C*",
    reversed: true,
    square: false,
    level: ["allowed", 3],
    series: [
      { name: "a*", x: [100, 50, 0], y: [0, 4, 9], style: "line", ink: "" },
      { name: "", x: [0, 1], y: [1, 2], style: "points", ink: "" },
    ],
  },
  colours: {
    first: "press",
    second: "proofer",
    pairs: [{ name: "Skin", first: [70, 10, 10], second: [60, 10, 10], de00: 8.04 }],
  },
  views: [{ label: "Its greys", page: "greys", of: ["profile"], how: {} }],
} as unknown as Answer;

describe("an answer", () => {
  it("has its sentence, figures, colours, what was done, and where to look further", () => {
    render(
      <MemoryRouter>
        <AnswerView answer={ANSWER} parts={{ profile: "7" }} known={{ sha: {} }} pages="/x.pdf" />
      </MemoryRouter>,
    );
    expect(screen.getByTestId("said").textContent).toBe(ANSWER.said);
    expect(screen.getByRole("table", { name: "Figures" }).textContent).toContain("Paper95.3 L*");
    expect(screen.getByRole("list", { name: "Colours" }).textContent).toContain("SkinΔE00 8.0");
    expect(screen.getByRole("list", { name: "What was done" }).children).toHaveLength(2);
    expect(screen.getByRole("link", { name: "Its greys" }).getAttribute("href")).toBe(
      "/profiles/7/greys",
    );
    expect(screen.getByRole("link", { name: "As PDF" }).getAttribute("href")).toBe("/x.pdf");
  });

  it("draws lightness falling to the right where it is asked so", () => {
    if (!ANSWER.plot) throw new Error("no plot");
    render(<AnswerPlot plot={ANSWER.plot} />);
    const points = document.querySelector("polyline")?.getAttribute("points")?.split(" ") ?? [];
    const x = points.map((p) => Number(p.split(",")[0]));
    expect(x).toEqual([...x].sort((a, b) => a - b));
    expect(screen.getByRole("img").textContent).toContain("allowed 3");
    expect(document.querySelectorAll("circle")).toHaveLength(2);
  });

  it("has round numbers along its axes", () => {
    expect(ticks(0, 100)).toEqual([0, 20, 40, 60, 80, 100]);
    expect(ticks(-3, 7)).toEqual([-2, 0, 2, 4, 6]);
    expect(ticks(5, 5)).toHaveLength(1);
  });
});
