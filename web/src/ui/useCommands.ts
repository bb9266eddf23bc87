import { useEffect, useRef } from "react";

import { type Command, commandOf } from "./shortcuts";

/** Run user commands by key while the component is shown. */
export function useCommands(run: Partial<Record<Command, () => void>>): void {
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const command = commandOf(event);
      const perform = command ? latest.current[command] : undefined;
      if (perform) {
        event.preventDefault();
        perform();
      }
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
