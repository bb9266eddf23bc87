import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, expect, it } from "vitest";

import { rove } from "./rove";

afterEach(cleanup);

const NAMES = ["Left", "Middle", "Right"];

function Group() {
  const [chosen, setChosen] = useState("Left");
  return (
    <div role="radiogroup" aria-label="Side" onKeyDown={rove}>
      {NAMES.map((name) => (
        <button
          key={name}
          role="radio"
          aria-checked={name === chosen}
          tabIndex={name === chosen ? 0 : -1}
          onClick={() => setChosen(name)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

const checked = () => screen.getByRole("radio", { checked: true }).textContent;
const press = (key: string, held = {}) =>
  fireEvent.keyDown(document.activeElement ?? document.body, { key, ...held });

it("goes round with the arrow keys, and to the ends", () => {
  render(<Group />);
  screen.getByRole("radio", { name: "Left" }).focus();
  press("ArrowRight");
  expect(checked()).toBe("Middle");
  expect(document.activeElement?.textContent).toBe("Middle");
  press("End");
  expect(checked()).toBe("Right");
  press("ArrowDown");
  expect(checked()).toBe("Left");
  press("ArrowLeft");
  expect(checked()).toBe("Right");
  press("Home");
  expect(checked()).toBe("Left");
});

it("leaves other keys and combinations alone", () => {
  render(<Group />);
  screen.getByRole("radio", { name: "Left" }).focus();
  press("x");
  press("ArrowRight", { ctrlKey: true });
  expect(checked()).toBe("Left");
});

it("keeps one stop in the tab order", () => {
  render(<Group />);
  expect(screen.getAllByRole("radio").map((r) => r.tabIndex)).toEqual([0, -1, -1]);
});
