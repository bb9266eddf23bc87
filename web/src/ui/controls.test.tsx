import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { NumberField, Section } from "./controls";

afterEach(cleanup);

const field = (onRest: (v: number | null) => void, empty?: string) =>
  render(
    <NumberField
      label="Width"
      help=""
      value={20}
      unit="mm"
      min={1}
      max={100}
      onRest={onRest}
      {...(empty !== undefined && { empty })}
    />,
  );
const type = (text: string) => {
  const input = screen.getByLabelText("Width");
  fireEvent.change(input, { target: { value: text } });
  fireEvent.blur(input);
};

it("keeps a typed number within its limits, with either decimal sign", () => {
  const onRest = vi.fn();
  field(onRest);
  type("35,5");
  expect(onRest).toHaveBeenLastCalledWith(35.5);
  type("900");
  expect(onRest).toHaveBeenLastCalledWith(100);
});

it("keeps what was there when the text is no number, or empty where it must not be", () => {
  const onRest = vi.fn();
  field(onRest);
  type("wide");
  type("");
  expect(onRest).not.toHaveBeenCalled();
  expect(screen.getByLabelText<HTMLInputElement>("Width").value).toBe("20");
});

it("gives nothing for an emptied field where that is allowed", () => {
  const onRest = vi.fn();
  field(onRest, "own");
  type(" ");
  expect(onRest).toHaveBeenCalledWith(null);
});

it("opens a section on wish", () => {
  render(
    <Section title="Films" fact="off">
      inside
    </Section>,
  );
  expect(screen.queryByText("inside")).toBeNull();
  fireEvent.click(screen.getByRole("button", { name: /Films/ }));
  expect(screen.getByText("inside")).toBeTruthy();
});
