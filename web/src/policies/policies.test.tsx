import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";

import { api, type OutputPolicy, type PolicyObject, type PolicyReport } from "../api";
import { FlowDiagram } from "./FlowDiagram";
import { ObjectTable } from "./ObjectTable";
import { RulesEditor } from "./RulesEditor";
import { groupOf, NEW_RULE, ruleFor } from "./words";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const policy = {
  version: 1,
  name: "Trial",
  destination: "x",
  own_intent: false,
  embedded: true,
  sources: {},
  rules: [
    { ...NEW_RULE, space: "spot", action: "stop" },
    { ...NEW_RULE, objects: "images", intent: "perceptual" },
  ],
  pure_black: true,
  greys_to_black: false,
  overprint_black: false,
  clean: false,
  tac: 300,
  tac_action: "report",
  resolution: { low: 100, high: 450, above: "report", to: 300 },
  compression: { kind: "lossless", quality: 90 },
  profile_in: true,
  output_intent: true,
  mirror: false,
  pdfx: "none",
} as OutputPolicy;

const object = (part: Partial<PolicyObject>): PolicyObject => ({
  page: 1,
  kind: "vector",
  family: "RGB",
  space: "DeviceRGB",
  profile: "",
  origin: "standard",
  rule: 2,
  action: "convert",
  values: [255, 0, 0],
  after: [0, 100, 100, 0],
  outcome: "DeviceCMYK",
  spot: [],
  pixels: null,
  bits: 0,
  filters: [],
  ppi: null,
  new_ppi: null,
  tac: null,
  tac_after: 200,
  de00: null,
  intent: "relative",
  box: null,
  count: 1,
  notes: [],
  ...part,
});

describe("the flow", () => {
  const report = {
    destination: "Coated",
    flow: [
      {
        space: "RGB",
        objects: "images",
        spot: "",
        rule: 2,
        action: "convert",
        outcome: "DeviceCMYK",
        count: 3,
      },
      {
        space: "grey",
        objects: "text and vectors",
        spot: "",
        rule: 0,
        action: "leave",
        outcome: "DeviceGray",
        count: 5,
      },
      {
        space: "spot",
        objects: "text and vectors",
        spot: "Ternholm Red",
        rule: 1,
        action: "stop",
        outcome: "stopped",
        count: 2,
      },
    ],
  } as unknown as PolicyReport;

  it("counts what was found, says the rule and adds up where it comes out", () => {
    render(
      <FlowDiagram report={report} policy={policy} chosen={null} onChoose={() => undefined} />,
    );
    const flow = screen.getByRole("group", { name: "Flow" });
    expect(within(flow).getByRole("button", { name: /RGB images\s*3/ })).toBeTruthy();
    expect(within(flow).getByText("perceptual, BPC")).toBeTruthy();
    expect(within(flow).getByText("no rule fits")).toBeTruthy();
    expect(within(flow).getByText("Coated")).toBeTruthy();
    expect(within(flow).getByText("Stopped")).toBeTruthy();
  });

  it("counts objects as finely as the rules are", () => {
    const text = { ...policy, rules: [{ ...NEW_RULE, objects: "text" as const }] };
    const thin = { ...policy, rules: [{ ...NEW_RULE, objects: "vectors" as const, below: 1 }] };
    const art = { ...policy, rules: [{ ...NEW_RULE, objects: "line art" as const }] };
    const groups = (o: Partial<PolicyObject>) =>
      [policy, text, thin, art].map((p) => groupOf(object(o), p));
    expect(groups({ kind: "text" })).toEqual([
      "text and vectors",
      "text",
      "text",
      "text and vectors",
    ]);
    expect(groups({ kind: "vector" })[1]).toBe("vectors");
    expect(groups({ kind: "image", bits: 1 })).toEqual(["images", "images", "images", "line art"]);
    expect(groups({ kind: "image", bits: 8 })[3]).toBe("images");
  });

  it("says what a rule is for, with its size and its pages", () => {
    expect(ruleFor({ ...NEW_RULE, objects: "text", space: "RGB", below: 7, pages: "2-" })).toBe(
      "Text below 7 pt in RGB, pages 2-",
    );
    expect(ruleFor({ ...NEW_RULE, objects: "all", space: "grey" })).toBe("Everything in grey");
  });

  it("breaks the line of what is stopped", () => {
    const { container } = render(
      <FlowDiagram report={report} policy={policy} chosen={null} onChoose={() => undefined} />,
    );
    const dashed = [...container.querySelectorAll("path")].filter((p) =>
      p.getAttribute("stroke-dasharray"),
    );
    expect(dashed).toHaveLength(1);
  });

  it("chooses a row, and lets go of it when it is pressed again", () => {
    const onChoose = vi.fn();
    const { rerender } = render(
      <FlowDiagram report={report} policy={policy} chosen={null} onChoose={onChoose} />,
    );
    fireEvent.click(screen.getByRole("button", { name: /RGB images/ }));
    expect(onChoose).toHaveBeenLastCalledWith("RGB images-2-DeviceCMYK");
    rerender(
      <FlowDiagram
        report={report}
        policy={policy}
        chosen="RGB images-2-DeviceCMYK"
        onChoose={onChoose}
      />,
    );
    fireEvent.click(screen.getByRole("button", { name: /RGB images/ }));
    expect(onChoose).toHaveBeenLastCalledWith(null);
  });
});

describe("the object table", () => {
  const objects = [
    object({ page: 2, kind: "image", pixels: [300, 200], ppi: 90 }),
    object({ page: 1, count: 4 }),
    object({ page: 3, kind: "image", pixels: [900, 600], ppi: 600, new_ppi: 300 }),
    object({ page: 4, action: "stop", spot: ["Ternholm Red"], family: "spot" }),
  ];
  const pages = () =>
    screen
      .getAllByRole("row")
      .slice(1)
      .map((r) => r.querySelector("td")?.textContent);

  it("sorts by a column, and the other way when it is pressed again", () => {
    render(<ObjectTable objects={objects} chosen={null} onChoose={() => undefined} />);
    expect(pages()).toEqual(["1", "2", "3", "4"]);
    const button = screen.getByRole("button", { name: "Pixels, resolution" });
    fireEvent.click(button);
    fireEvent.click(button);
    expect(pages()[0]).toBe("3");
    expect(screen.getByText("900 × 600 px, 600 ppi → 300")).toBeTruthy();
  });

  it("shows one kind only, and values only where something comes out", () => {
    render(<ObjectTable objects={objects} chosen={null} onChoose={() => undefined} />);
    const stopped = screen.getAllByRole("row").at(-1);
    expect(stopped?.textContent).toContain("spot, Ternholm Red");
    expect(stopped?.querySelectorAll("td")[6]?.textContent).toBe("–");
    fireEvent.change(screen.getByLabelText("Kind of object"), { target: { value: "image" } });
    expect(pages()).toEqual(["2", "3"]);
  });

  it("chooses by click and by Enter", () => {
    const onChoose = vi.fn();
    render(<ObjectTable objects={objects} chosen={null} onChoose={onChoose} />);
    const rows = screen.getAllByRole("row");
    fireEvent.click(rows[1] as HTMLElement);
    expect(onChoose).toHaveBeenLastCalledWith(objects[1]);
    fireEvent.keyDown(rows[2] as HTMLElement, { key: "Enter" });
    expect(onChoose).toHaveBeenLastCalledWith(objects[0]);
  });
});

describe("the rules", () => {
  const edit = () => {
    const onChange = vi.fn<(p: OutputPolicy) => void>();
    vi.spyOn(api, "GET").mockImplementation((async () => ({
      data: [],
      response: new Response(),
    })) as never);
    render(
      <QueryClientProvider client={new QueryClient()}>
        <RulesEditor policy={policy} onChange={onChange} />
      </QueryClientProvider>,
    );
    return () => onChange.mock.lastCall?.[0] as OutputPolicy;
  };

  it("change one at a time and keep the others", () => {
    const last = edit();
    const first = screen.getByRole("listitem", { name: "Rule 1" });
    fireEvent.change(within(first).getByLabelText("Action"), { target: { value: "convert" } });
    expect(last().rules.map((r) => r.action)).toEqual(["convert", "convert"]);
    expect(last().rules[1]).toEqual(policy.rules[1]);
  });

  it("forget a spot's name when the space is no longer spot", () => {
    const last = edit();
    const first = screen.getByRole("listitem", { name: "Rule 1" });
    fireEvent.change(within(first).getByLabelText("Name of the spot colour"), {
      target: { value: "Ternholm Red" },
    });
    expect(last().rules[0]?.spot).toBe("Ternholm Red");
    fireEvent.change(within(first).getByLabelText("Colour space"), { target: { value: "RGB" } });
    expect(last().rules[0]).toMatchObject({ space: "RGB", spot: "" });
  });

  it("move, are removed and are added", () => {
    const last = edit();
    fireEvent.click(screen.getByRole("button", { name: "Rule 2 earlier" }));
    expect(last().rules.map((r) => r.action)).toEqual(["convert", "stop"]);
    fireEvent.click(screen.getByRole("button", { name: "Remove rule 1" }));
    expect(last().rules).toEqual([policy.rules[1]]);
    fireEvent.click(screen.getByRole("button", { name: "Add a rule" }));
    expect(last().rules).toHaveLength(3);
    expect(
      (screen.getByRole("button", { name: "Rule 1 earlier" }) as HTMLButtonElement).disabled,
    ).toBe(true);
  });

  it("hold for all objects by switches and numbers", () => {
    const last = edit();
    fireEvent.click(screen.getByLabelText("Enforce it by re-separation"));
    expect(last().tac_action).toBe("enforce");
    const tac = screen.getByLabelText("TAC");
    fireEvent.change(tac, { target: { value: "" } });
    fireEvent.blur(tac);
    expect(last().tac).toBeNull();
  });
});
