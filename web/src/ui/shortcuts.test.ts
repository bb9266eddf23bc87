import { describe, expect, it } from "vitest";

import { commandOf, setSingleKeys, SHORTCUTS } from "./shortcuts";

function press(key: string, target: HTMLElement = document.body, init: KeyboardEventInit = {}) {
  const event = new KeyboardEvent("keydown", { key, ...init });
  Object.defineProperty(event, "target", { value: target });
  return commandOf(event);
}

function input(type: string) {
  const element = document.createElement("input");
  element.type = type;
  return element;
}

describe("keys", () => {
  it("are each given once", () => {
    const keys = Object.values(SHORTCUTS).map((s) => s.key);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it("find their command, in either case", () => {
    expect(press("j")).toBe("flip");
    expect(press("J")).toBe("flip");
    expect(press("?")).toBe("help");
    expect(press("z")).toBeNull();
  });

  it("belong to text fields while one types, but not to sliders and switches", () => {
    expect(press("j", input("text"))).toBeNull();
    expect(press("j", document.createElement("textarea"))).toBeNull();
    expect(press("j", input("range"))).toBe("flip");
    expect(press("j", input("checkbox"))).toBe("flip");
  });

  it("leave the browser's own combinations alone", () => {
    expect(press("r", document.body, { ctrlKey: true })).toBeNull();
    expect(press("w", document.body, { metaKey: true })).toBeNull();
  });
});

describe("combinations with the command key", () => {
  it.each([
    [{ ctrlKey: true }, "z", "undo"],
    [{ metaKey: true }, "z", "undo"],
    [{ ctrlKey: true, shiftKey: true }, "Z", "redo"],
    [{ metaKey: true, shiftKey: true }, "z", "redo"],
    [{ ctrlKey: true }, "y", "redo"],
    [{ ctrlKey: true, altKey: true }, "z", null],
    [{ shiftKey: true }, "z", null],
  ] as const)("%j %s", (init, key, command) => {
    expect(press(key, document.body, init as KeyboardEventInit)).toBe(command);
  });

  it("leave text fields their own undo", () => {
    expect(press("z", input("text"), { ctrlKey: true } as KeyboardEventInit)).toBeNull();
  });
});

it("lets single keys alone where they are switched off, but not Esc and combinations", () => {
  const press = (key: string, more = {}) =>
    commandOf(new KeyboardEvent("keydown", { key, ...more }));
  try {
    setSingleKeys(false);
    expect(press("g")).toBeNull();
    expect(press("?")).toBeNull();
    expect(press("Escape")).toBe("stop");
    expect(press("z", { ctrlKey: true })).toBe("undo");
    setSingleKeys(true);
    expect(press("g")).toBe("veil");
  } finally {
    localStorage.clear();
  }
});
