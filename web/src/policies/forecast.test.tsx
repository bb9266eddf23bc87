import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";

import { api, type OutputPolicy, type PdfDocument, type PolicyReport } from "../api";
import { Forecast } from "./Forecast";
import { SeveralPolicies } from "./SeveralPolicies";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const report = (part: Partial<PolicyReport>) =>
  ({
    destination: "Coated",
    size_before: 4_100_000,
    size_forecast: 3_240_000,
    colour: { mean: 1.24, p95: 4.31, greatest: 21, objects: 40, unknown: 0 },
    tac: { before: 400, after: 300.4, rule: 300 },
    stops: 0,
    findings: [],
    ...part,
  }) as unknown as PolicyReport;

describe("what to expect", () => {
  const note = (part: Partial<PolicyReport> = {}) => {
    render(<Forecast report={report(part)} />);
    return screen.queryByRole("note")?.textContent ?? "";
  };
  it("says size and colour", () => {
    expect(note()).toBe(
      "4.10 MB will be about 3.24 MB. Colours move by 1.2 ΔE00 in the mean, 95 % of 40 objects by less than 4.3, at most 21.0.",
    );
  });
  it("says of how many the colour is not known", () => {
    const colour = { mean: 0, p95: 0, greatest: 0, objects: 1, unknown: 3, of: "objects" as const };
    expect(note({ colour, size_forecast: null })).toBe(
      " Colours move by 0.0 ΔE00 in the mean, 95 % of 1 object by less than 0.0, at most 0.0; of 3 it is not known.",
    );
  });
  it("speaks of a picture's pixels", () => {
    const colour = {
      mean: 2,
      p95: 3,
      greatest: 4,
      objects: 40000,
      unknown: 0,
      of: "pixels" as const,
    };
    expect(note({ colour, size_forecast: null })).toContain(
      "95 % of 40,000 pixels by less than 3.0",
    );
  });
  it("says nothing where nothing is known", () => {
    expect(note({ size_forecast: null, colour: null })).toBe("");
  });
});

describe("several policies", () => {
  const choices = ["a", "b", "c"].map((key) => ({
    key,
    name: `Policy ${key}`,
    policy: { name: key } as OutputPolicy,
  }));
  const show = () =>
    render(
      <QueryClientProvider client={new QueryClient()}>
        <SeveralPolicies
          document={{ id: 7, file_name: "atlas.pdf" } as PdfDocument}
          choices={choices}
        />
      </QueryClientProvider>,
    );

  it("wants at least two", () => {
    show();
    const button = screen.getByRole<HTMLButtonElement>("button", { name: "Try side by side" });
    expect(button.disabled).toBe(true);
    fireEvent.click(screen.getByLabelText("Policy c"));
    expect(button.disabled).toBe(false);
    fireEvent.click(screen.getByLabelText("Policy a"));
    expect(button.disabled).toBe(true);
  });

  it("tries each dry and shows them in rows, also one that fails", async () => {
    const asked: unknown[] = [];
    const answer = (data: unknown) => ({ data, response: new Response() });
    vi.spyOn(api, "POST").mockImplementation((async (
      _: string,
      { body }: { body: { policy: { name: string } } },
    ) => {
      asked.push(body);
      return answer({ id: body.policy.name === "a" ? 1 : 2, state: "waiting" });
    }) as never);
    vi.spyOn(api, "GET").mockImplementation((async (
      _: string,
      { params }: { params: { path: { id: number } } },
    ) =>
      answer(
        params.path.id === 1
          ? { id: 1, state: "done", progress: 1, report: report({ stops: 2 }) }
          : { id: 2, state: "failed", progress: 0, error: "The file is damaged.", report: null },
      )) as never);
    show();
    fireEvent.click(screen.getByLabelText("Policy c"));
    fireEvent.click(screen.getByRole("button", { name: "Try side by side" }));
    await screen.findByText("The file is damaged.");
    const rows = within(screen.getByRole("table")).getAllByRole("row");
    expect(rows[1]?.textContent).toBe("Policy aCoated3.24 MB1.24.321.0300 %2–");
    expect(rows[2]?.textContent).toBe("Policy cThe file is damaged.");
    expect(asked).toEqual([
      { policy: { name: "a" }, document: 7, dry: true },
      { policy: { name: "c" }, document: 7, dry: true },
    ]);
  });
});
