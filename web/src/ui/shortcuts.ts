/** User commands by key, as data; the shortcut sheet is drawn from them. */
export interface Shortcut {
  key: string;
  shown: string;
  label: string;
  /** A further combination with the platform's command key. */
  combined?: { key: string; shift: boolean; shown: string };
}

export const SHORTCUTS = {
  flip: { key: "j", shown: "J", label: "Flip: the original in the press view's place, and back" },
  stage1: { key: "1", shown: "1", label: "Artwork" },
  stage2: { key: "2", shown: "2", label: "Source" },
  stage3: { key: "3", shown: "3", label: "Press view" },
  stage4: { key: "4", shown: "4", label: "Inks" },
  stage5: { key: "5", shown: "5", label: "Deliver" },
  intent: { key: "r", shown: "R", label: "Next rendering intent" },
  veil: { key: "g", shown: "G", label: "Out-of-gamut veil on or off" },
  whole: { key: "w", shown: "W", label: "Whole picture" },
  actual: { key: "q", shown: "Q", label: "One picture pixel to one screen pixel" },
  undo: {
    key: "b",
    shown: "B",
    label: "Back: undo the last change of the recipe",
    combined: { key: "z", shift: false, shown: "Ctrl+Z" },
  },
  redo: {
    key: "n",
    shown: "N",
    label: "Redo it",
    combined: { key: "z", shift: true, shown: "Ctrl+Shift+Z" },
  },
  stop: { key: "escape", shown: "Esc", label: "Stop a tool of the picture" },
  help: { key: "?", shown: "?", label: "This list" },
} as const satisfies Record<string, Shortcut>;

export type Command = keyof typeof SHORTCUTS;

const isMac = () => /Mac|iPhone|iPad/.test(navigator.platform);

/** A combination as the platform writes it. */
export const combination = (text: string) =>
  isMac() ? text.replace("Ctrl+", "⌘").replace("Shift+", "⇧") : text;

const KEPT = "plinto.single-keys";

/** Whether single keys are commands; off for those whose speech or switches type letters by chance. */
export const singleKeys = () => localStorage.getItem(KEPT) !== "no";
export const setSingleKeys = (on: boolean) => localStorage.setItem(KEPT, on ? "yes" : "no");

/** The command of a key press, unless it belongs to a text field or to the browser. */
export function commandOf(event: KeyboardEvent): Command | null {
  const target = event.target as HTMLElement | null;
  if (event.altKey) return null;
  if (target && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))) {
    const kind = (target as HTMLInputElement).type;
    if (kind !== "range" && kind !== "checkbox" && kind !== "radio") return null;
  }
  const pressed = event.key.toLowerCase();
  const held = event.ctrlKey || event.metaKey;
  if (!held && pressed !== "escape" && !singleKeys()) return null;
  const found = (Object.entries(SHORTCUTS) as [Command, Shortcut][]).find(([, s]) =>
    held ? s.combined?.key === pressed && s.combined.shift === event.shiftKey : s.key === pressed,
  );
  // The other usual way to redo, beside Shift.
  if (held && !event.shiftKey && pressed === "y") return "redo";
  return found ? found[0] : null;
}
