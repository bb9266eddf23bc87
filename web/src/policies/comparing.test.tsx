import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";

import type { CheckFinding, TreatedDocument as Treated } from "../api";
import { said } from "../api/said";
import { Findings } from "./Findings";
import { pagesText } from "./severity";
import { StandardCheck } from "./StandardCheck";
import { TreatedRow } from "./TreatedRow";
import { NEW_RULE, ruleDetail, stretchOf, vividOf } from "./words";

afterEach(cleanup);

const made = (after: number[], action = "convert") => ({
  rule: 1,
  action,
  outcome: "DeviceCMYK",
  after,
  new_ppi: null,
  tac_after: null,
});
const TREATED: Treated = {
  document: 1,
  file_name: "atlas.pdf",
  objects: 40,
  changed: 0,
  stops: [0, 0],
  examples: [],
  problem: "",
};

describe("a document under two policies", () => {
  it("says that all comes out alike", () => {
    render(
      <ul>
        <TreatedRow treated={TREATED} />
      </ul>,
    );
    expect(screen.getByRole("listitem").textContent).toBe(
      "atlas.pdf: all 40 objects come out alike",
    );
  });

  it("shows the objects that differ, before and after, and where one stops", () => {
    const examples = [
      {
        page: 3,
        kind: "vector",
        family: "RGB",
        values: [255, 0, 0],
        spot: [],
        count: 1,
        before: made([0, 100, 100, 0]),
        after: made([4.3, 86.5, 99, 3.9]),
      },
      {
        page: 4,
        kind: "vector",
        family: "spot",
        values: [100],
        spot: ["Ternholm Red"],
        count: 2,
        before: made([0, 90, 80, 5]),
        after: made([], "stop"),
      },
    ];
    render(
      <ul>
        <TreatedRow treated={{ ...TREATED, changed: 3, stops: [0, 2], examples }} />
      </ul>,
    );
    expect(screen.getByRole("listitem").textContent).toContain(
      "3 of 40 objects come out differently. It stops at 2 objects instead of 0.",
    );
    const rows = within(screen.getByRole("table"))
      .getAllByRole("row")
      .map((r) => r.textContent);
    expect(rows[0]).toContain("RGB vector R 255  G 0  B 0");
    expect(rows[0]).toContain("→ C 4.3  M 86.5  Y 99  K 3.9");
    expect(rows[1]).toContain("spot Ternholm Red");
    expect(rows[1]).toContain("→ stops");
  });

  it("says why a document could not be tried", () => {
    render(
      <ul>
        <TreatedRow treated={{ ...TREATED, problem: "The document is damaged." }} />
      </ul>,
    );
    expect(screen.getByRole("listitem").textContent).toContain("The document is damaged.");
  });
});

describe("the stretch of a rule", () => {
  it("goes to the list and back", () => {
    const rule = { ...NEW_RULE, vivid: vividOf("50") };
    expect(rule.vivid).toEqual({ space: "stretch", strength: 50 });
    expect(stretchOf(rule)).toBe("50");
    expect(stretchOf({ ...NEW_RULE, vivid: vividOf("none") })).toBe("none");
    expect(stretchOf({ ...NEW_RULE, vivid: { space: "stretch", strength: 8 } })).toBe("none");
    expect(ruleDetail(rule)).toBe("relative colorimetric, BPC, stretched 50 %");
  });
});

describe("a part of PDF/X", () => {
  const breach = {
    rule: said("no transparency"),
    text: said("There is a soft mask."),
    pages: [2],
    where: said("page 2"),
  };
  const shown = () => screen.getByRole("region").textContent;
  it("is said to be marked, kept, or broken and where", () => {
    const kept = { standard: "PDF/X-4", breaches: [], marked: true };
    const { rerender } = render(<StandardCheck check={kept} />);
    expect(shown()).toContain("is marked as PDF/X-4");
    rerender(<StandardCheck check={{ ...kept, marked: false }} />);
    expect(shown()).toContain("breaks nothing of PDF/X-4 that is looked at");
    rerender(
      <StandardCheck check={{ standard: "PDF/X-1a:2003", breaches: [breach], marked: false }} />,
    );
    expect(shown()).toContain("does not keep one rule of PDF/X-1a:2003, and is not marked");
    expect(shown()).toContain("no transparency, page 2: There is a soft mask.");
    rerender(
      <StandardCheck before check={{ standard: "PDF/X-4", breaches: [breach], marked: false }} />,
    );
    expect(shown()).toContain("As it came, the document does not keep one rule of PDF/X-4.");
  });
});

describe("findings of checks", () => {
  const finding = (check: string, severity: string, pages: number[] = [1]): CheckFinding => ({
    check,
    title: check,
    severity,
    text: said("Some."),
    pages,
    count: 1,
    places: severity === "warn" ? [{ page: 4, box: [1, 2, 3, 4] }] : [],
  });
  it("stand the gravest first, and lead to their place", () => {
    const onShow = vi.fn();
    const found = ["report", "mend", "warn", "stop"].map((s) => finding(`${s} it`, s));
    render(<Findings findings={found} onShow={onShow} />);
    const rows = screen.getAllByRole("listitem").map((r) => r.getAttribute("data-severity"));
    expect(rows).toEqual(["stop", "warn", "mend", "report"]);
    fireEvent.click(screen.getByRole("button", { name: "Show warn it on the page" }));
    expect(onShow).toHaveBeenCalledWith({ page: 4, box: [1, 2, 3, 4] });
  });
  it("name their pages, the first ones of many", () => {
    expect(pagesText([])).toBe("");
    expect(pagesText([3])).toBe("Page 3.");
    expect(pagesText([1, 2, 3, 4, 5, 6, 7, 8])).toBe("Pages 1, 2, 3, 4, 5, 6 and 2 more.");
  });
});
