import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";

import type { ConversionReport, PrintedReport, QueueEntry } from "../api";
import { said } from "../api/said";
import { bytes, moment, span } from "../ui";
import { DeliveryReport } from "./DeliveryReport";
import { PrintReport } from "./PrintReport";
import { QueueRow } from "./QueueRow";
import { stateFact } from "./words";

afterEach(cleanup);

const ENTRY: QueueEntry = {
  kind: "print",
  kind_name: "Print",
  id: 4,
  title: "atlas.pdf",
  detail: "North press, Gloss",
  place: "/printers",
  file_name: "atlas.zip",
  state: "waiting",
  priority: 0,
  progress: 0,
  seconds_left: null,
  seconds: null,
  error: "",
  has_file: false,
  has_report: false,
  result_size: 0,
  created: "2026-05-04T10:02:00Z",
  finished: null,
};

function row(part: Partial<QueueEntry>) {
  const onAct = vi.fn();
  const onChoose = vi.fn();
  const onPriority = vi.fn();
  render(
    <MemoryRouter>
      <table>
        <tbody>
          <QueueRow
            entry={{ ...ENTRY, ...part }}
            chosen={false}
            onChoose={onChoose}
            onAct={onAct}
            onPriority={onPriority}
          />
        </tbody>
      </table>
    </MemoryRouter>,
  );
  return { onAct, onChoose, onPriority };
}

const offered = () => screen.queryAllByRole("button").map((b) => b.textContent);

describe("words", () => {
  it("say times as people do", () => {
    expect([0.2, 42, 400, 9000].map(span)).toEqual(["under 1 s", "42 s", "7 min", "2.5 h"]);
    expect(moment("2026-05-04T10:02:00Z")).toMatch(/^4 May, \d\d:02$/);
  });

  it("say how far work is", () => {
    expect(stateFact({ ...ENTRY, state: "running", progress: 0.42, seconds_left: 11.6 })).toBe(
      "42 %, about 12 s left",
    );
    expect(
      stateFact({ ...ENTRY, state: "done", seconds: 8.2, has_file: true, result_size: 2_345_678 }),
    ).toBe("done in 8 s, 2.35 MB");
    expect([1, 18, 999, 1000].map(bytes)).toEqual(["1 byte", "18 bytes", "999 bytes", "1.0 kB"]);
    expect(bytes(99_000)).toBe("99.0 kB");
    expect(stateFact({ ...ENTRY, state: "held" })).toBe("held");
  });
});

describe("a row of the queue", () => {
  it("offers what can be done in its state", () => {
    row({ state: "waiting" });
    expect(offered()).toEqual(["Hold", "Cancel"]);
    cleanup();
    row({ state: "held" });
    expect(offered()).toEqual(["Release", "Cancel"]);
    cleanup();
    row({ state: "failed", error: "It is damaged." });
    expect(offered()).toEqual(["Try again"]);
    expect(screen.getByRole("alert").textContent).toBe("It is damaged.");
    cleanup();
    row({ state: "done", has_file: true });
    expect(offered()).toEqual([]);
    expect(screen.getByRole("link", { name: "File" }).getAttribute("href")).toBe(
      "/api/queue/print/4/file",
    );
  });

  it("acts without being chosen, and is chosen by click and Enter", () => {
    const { onAct, onChoose, onPriority } = row({});
    fireEvent.click(screen.getByRole("button", { name: "Hold" }));
    fireEvent.change(screen.getByLabelText("Priority of atlas.pdf"), { target: { value: "1" } });
    expect(onAct).toHaveBeenCalledWith("hold");
    expect(onPriority).toHaveBeenCalledWith(1);
    expect(onChoose).not.toHaveBeenCalled();
    fireEvent.click(screen.getByText("atlas.pdf"));
    fireEvent.keyDown(screen.getByRole("row"), { key: "Enter" });
    expect(onChoose).toHaveBeenCalledTimes(2);
  });

  it("leaves the priority of running work alone", () => {
    row({ state: "running", priority: 1, progress: 0.5 });
    expect(screen.queryByLabelText("Priority of atlas.pdf")).toBeNull();
    expect(screen.getByRole("progressbar").getAttribute("aria-valuenow")).toBe("50");
  });
});

describe("the report of a print", () => {
  const sheet = (page: number) => ({
    page,
    size_mm: [210, 297] as [number, number],
    coverage: { Cyan: 0.1, "Ternholm Red": 0.02 },
    tac_highest: 250,
    tac_mean: 90,
    millilitres: {},
    notes: page === 2 ? [said("Too wide.")] : [],
  });
  const report: PrintedReport = {
    version: 1,
    sheets_left_out: 0,
    policy: null,
    settings: null,
    colour: null,
    sheets: [sheet(1), sheet(2)],
    copies: 12,
    millilitres: { C: 0.5, K: 120 },
    area_m2: 1.5,
    roll_metres: 3.6,
    ink_cost: 0.0123,
    medium_cost: 8.4,
    currency: "EUR",
    tac_highest: 250,
    tac_rule: 300,
    press_against_profile: { mean: 0.42, p95: 1.1, colours: 300 },
  };

  it("says what the run took, small sums with enough digits", () => {
    render(<PrintReport id={9} report={report} />);
    const text = document.body.textContent ?? "";
    for (const fact of [
      "2 × 12",
      "C 0.50  K 120",
      "0.0123 EUR",
      "8.40 EUR, 3.60 m of roll",
      "250 % of 300 %",
      "ΔE00 0.42 mean, 1.10 at 95 %",
    ])
      expect(text).toContain(fact);
  });

  it("shows each sheet and each of its plates", () => {
    render(<PrintReport id={9} report={report} />);
    expect(screen.getByRole("img").getAttribute("src")).toBe("/api/prints/9/sheet-1.png");
    fireEvent.change(screen.getByLabelText("Sheet"), { target: { value: "2" } });
    expect(screen.getByText("Too wide.")).toBeTruthy();
    fireEvent.change(screen.getByLabelText("What of it"), { target: { value: "1" } });
    expect(screen.getByRole("img", { name: "Ternholm Red plate" }).getAttribute("src")).toBe(
      "/api/prints/9/plates/2-2-Ternholm_Red.png",
    );
  });
});

describe("a delivery's report", () => {
  const report = {
    destination: { profile: "Sheetfed coated", channels: ["C", "M", "Y", "K"] },
    intent: "relative",
    bpc: true,
    tac: { max: 298.44, at: { x: 0, y: 0 }, rule: 300 },
    de00: { mean: 1.234, p95: 4, p99: 6, max: 12.34, samples: 10 },
    out_of_gamut: { share: 0.123, threshold_de00: 2 },
    link_error: { mean: 0.081 },
    greys: null,
  } as unknown as ConversionReport;

  it("says ink, colour and the error of the grid", () => {
    render(<DeliveryReport report={report} />);
    const text = screen.getByRole("region", { name: "Delivery report" }).textContent;
    expect(text).toContain("Relative colorimetric, BPC");
    expect(text).toContain("298.4 % of 300 %");
    expect(text).toContain("ΔE00 1.23 mean, 4.00 at 95 %, 12.3 at most");
    expect(text).toContain("12.3 %");
    expect(text).toContain("ΔE00 0.08 mean");
    expect(screen.queryByTestId("evenness")).toBeNull();
  });

  it("says how the greys run where it is known", () => {
    const greys = { black_back: 3, black_step: 1, step: 1, bend: 0 };
    render(<DeliveryReport report={{ ...report, tac: { ...report.tac, rule: null }, greys }} />);
    expect(screen.getByTestId("evenness").textContent).toContain("unevenly");
    expect(screen.getByText("298.4 %")).toBeTruthy();
  });
});
