import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import type { CheckKind, OutputPolicy } from "../api";
import { checksQuery } from "../queries/policies";
import { ChecksEditor } from "./ChecksEditor";

afterEach(cleanup);

const KINDS: CheckKind[] = [
  { what: "hairlines", title: "Hairlines", help: "Thin.", unit: "pt", start: 0.25, low: 0.01, high: 10, mends: "Thicker." },
  { what: "fonts", title: "Fonts", help: "Missing.", unit: "", start: null, low: 0, high: 0, mends: "" },
]; // prettier-ignore

function shown(checks: OutputPolicy["checks"]) {
  const client = new QueryClient();
  client.setQueryData(checksQuery.queryKey, KINDS);
  const onChange = vi.fn();
  render(
    <QueryClientProvider client={client}>
      <ChecksEditor policy={{ checks } as OutputPolicy} onChange={onChange} />
    </QueryClientProvider>,
  );
  return onChange;
}

it("a check is made, changed in its place and taken out again", () => {
  const kept = [
    { what: "hairlines", severity: "warn", limit: null },
    { what: "fonts", severity: "stop", limit: null },
  ] as NonNullable<OutputPolicy["checks"]>;
  const onChange = shown(kept);
  const lines = screen.getByLabelText("What follows from hairlines");
  fireEvent.change(lines, { target: { value: "mend" } });
  expect(onChange).toHaveBeenLastCalledWith([{ ...kept[0], severity: "mend" }, kept[1]]);
  fireEvent.change(lines, { target: { value: "nothing" } });
  expect(onChange).toHaveBeenLastCalledWith([kept[1]]);
  const limit = screen.getByLabelText("Limit of hairlines");
  expect((limit as HTMLInputElement).value).toBe("0.25");
  fireEvent.change(limit, { target: { value: "99" } });
  fireEvent.blur(limit);
  expect(onChange).toHaveBeenLastCalledWith([{ ...kept[0], limit: 10 }, kept[1]]);
});

it("mending is offered only where something can be mended", () => {
  const onChange = shown([]);
  const offered = (name: string) =>
    within(screen.getByLabelText(name)).queryByText("mend it") !== null;
  expect(offered("What follows from hairlines")).toBe(true);
  expect(offered("What follows from fonts")).toBe(false);
  expect(screen.queryByLabelText("Limit of hairlines")).toBeNull();
  fireEvent.change(screen.getByLabelText("What follows from fonts"), { target: { value: "warn" } });
  expect(onChange).toHaveBeenLastCalledWith([{ what: "fonts", severity: "warn", limit: null }]);
});
