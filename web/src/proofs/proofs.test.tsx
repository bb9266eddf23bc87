import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";

import type { ProofBrief, ProofPatch, ProofReadingJudged } from "../api";
import { said } from "../api/said";
import { Drift } from "./Drift";
import { Judged } from "./Judged";
import { OnePatch, Strip } from "./Strip";
import { CRITERIA, LIMITS, verdict } from "./words";

afterEach(cleanup);

const patch = (name: string, missed = false): ProofPatch =>
  ({
    name,
    kind: name === "Paper" ? "paper" : "solid",
    aim: [50, 10, -10],
    expected: [51, 10, -9],
    inks: { C: 100, M: 0 },
    device: { C: 80, M: 5 },
    missed,
  }) as unknown as ProofPatch;

const reading = (passes: boolean | null, within: boolean | null): ProofReadingJudged =>
  ({
    id: 3,
    way: "bench",
    by: "Proofing inkjet",
    noise: 0,
    judgement: {
      passes,
      signs: passes === false ? [said("The patches are lighter by L* 3.0 in the mean.")] : [],
      tolerances: { name: "House" },
      criteria: [
        { key: "mean", value: 3.456, limit: 2.5, within },
        { key: "p95", value: 5, limit: null, within: null },
      ],
      patches: [{ name: "C 100", read: [52, 9, -9], de00: 3.21, dh: 0.5, dc: 1.5, within }],
    },
  }) as unknown as ProofReadingJudged;

describe("the verdict", () => {
  it("says what was missed, and what it looks like", () => {
    render(<Judged reading={reading(false, false)} />);
    expect(screen.getByTestId("verdict").textContent).toContain("It fails.");
    const rows = within(screen.getByRole("table")).getAllByRole("row");
    expect(rows[1]?.textContent).toContain("All patches, mean3.462.5missed");
    expect(rows[2]?.textContent).toContain("not judged");
    expect(screen.getByText(/lighter by L\* 3.0/)).toBeTruthy();
    expect(screen.getByText(/read without noise/)).toBeTruthy();
  });

  it("does not pass what nobody asked for", () => {
    render(<Judged reading={reading(null, null)} />);
    expect(screen.getByTestId("verdict").textContent).toContain("nothing is judged");
    expect([verdict(true), verdict(false), verdict(null)]).toEqual([
      "passes",
      "fails",
      "not judged",
    ]);
  });
});

describe("the strip", () => {
  it("is chosen by keys and marks what was missed by more than colour", () => {
    const choose = vi.fn();
    render(
      <Strip
        patches={[patch("Paper"), patch("C 100")]}
        judged={reading(false, false).judgement}
        chosen={null}
        onChoose={choose}
      />,
    );
    const missed = screen.getByRole("option", { name: /^C 100 *ΔE00 *3.2 *missed$/ });
    expect(missed?.textContent).toContain("×");
    fireEvent.keyDown(missed, { key: "Enter" });
    expect(choose).toHaveBeenCalledWith("C 100");
    expect(screen.getByRole("option", { name: "Paper" })?.textContent).not.toContain("×");
  });

  it("gives one patch in numbers", () => {
    render(<OnePatch patch={patch("C 100", true)} judged={reading(false, false).judgement} />);
    const group = screen.getByRole("group", { name: "Patch C 100" });
    expect(group.textContent).toContain("C 100  M 0 of the press; C 80  M 5 of the proofer");
    expect(group.textContent).toContain("out of the proofer's reach");
    expect(group.textContent).toContain("ΔE00 3.2");
  });
});

describe("the drift", () => {
  const proof = (id: number, means: number[]) =>
    ({
      id,
      readings: means.map((mean, i) => ({
        id: id * 10 + i,
        by: "P",
        passes: mean < 3,
        created: `2026-0${id}-1${i}T10:00:00Z`,
        figures: { mean, paper: 1, most: mean * 2 },
      })),
    }) as unknown as ProofBrief;

  it("runs over all proofs in the order of time", () => {
    const open = vi.fn();
    render(<Drift proofs={[proof(2, [4]), proof(1, [1, 2])]} shown={10} onOpen={open} />);
    expect(screen.getByRole("img", { name: "Drift over 3 readings" })).toBeTruthy();
    const circles = [...document.querySelectorAll("circle")];
    expect(circles.map((c) => c.getAttribute("fill"))).toEqual([
      "currentColor",
      "currentColor",
      "white",
    ]);
    fireEvent.click(circles[2] as Element);
    expect(open).toHaveBeenCalledWith(2, 20);
  });

  it("needs two readings", () => {
    render(<Drift proofs={[proof(1, [1])]} shown={null} onOpen={() => undefined} />);
    expect(screen.getByText(/from the second reading on/)).toBeTruthy();
  });
});

describe("tolerances", () => {
  it("have words for every limit", () => {
    expect(LIMITS).toEqual(Object.keys(CRITERIA));
    expect(LIMITS).toHaveLength(7);
  });
});
