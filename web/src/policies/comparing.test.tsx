import { cleanup, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";

import type { TreatedDocument as Treated } from "../api";
import { ColourRules } from "./ColourRules";
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

describe("colour rules of a standard", () => {
  it("are said to be kept, or which are not and where; nothing is claimed beyond them", () => {
    const { rerender } = render(<ColourRules rules={{ standard: "PDF/X-4", breaches: [] }} />);
    expect(screen.getByRole("region").textContent).toContain("keeps the colour rules of PDF/X-4");
    rerender(
      <ColourRules
        rules={{
          standard: "PDF/X-1a",
          breaches: [
            { rule: "no transparency", text: "There is a soft mask.", pages: [2], where: "page 2" },
          ],
        }}
      />,
    );
    expect(screen.getByRole("region").textContent).toContain(
      "no transparency, page 2: There is a soft mask.",
    );
    expect(screen.getByRole("region").textContent).toContain("fonts, boxes and metadata are not");
  });
});
