import type { KeyboardEvent } from "react";

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/**
 * Arrow keys, Home and End in a radio group or a tab list: the next one is focused and chosen, as
 * its button is. The chosen one alone is in the tab order (`tabIndex={chosen ? 0 : -1}`).
 */
export function rove(event: KeyboardEvent<HTMLElement>): void {
  const items = [
    ...event.currentTarget.querySelectorAll<HTMLElement>(
      '[role="radio"]:not([disabled]), [role="tab"]:not([disabled])',
    ),
  ];
  const at = items.indexOf(document.activeElement as HTMLElement);
  if (at < 0 || event.altKey || event.ctrlKey || event.metaKey) return;
  const step = STEPS[event.key];
  const to =
    event.key === "Home"
      ? 0
      : event.key === "End"
        ? items.length - 1
        : step === undefined
          ? -1
          : (at + step + items.length) % items.length;
  if (to < 0) return;
  event.preventDefault();
  items[to]?.focus();
  items[to]?.click();
}
