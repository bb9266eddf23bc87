import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";

import { ChoiceRow, NumberField, Section } from "./controls";

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

it("names a list on one line by its label and says what is chosen", () => {
  const onChange = vi.fn();
  const options = { keep: "as they are", remove: "taken out" };
  render(<ChoiceRow label="Tones" value="keep" {...{ options, onChange }} />);
  const list = screen.getByRole<HTMLSelectElement>("combobox", { name: "Tones" });
  expect(list.selectedOptions[0]?.text).toBe("as they are");
  fireEvent.change(list, { target: { value: "remove" } });
  expect(onChange).toHaveBeenCalledWith("remove");
  expect(screen.getByText("Tones")).toBeTruthy();
});
