import { type ReactNode, type RefObject, useEffect, useRef } from "react";
import type { FieldValues } from "react-hook-form";

import type { Draft } from "./useDraft";
import { useLeaving } from "./useLeaving";

/** The way to leave an editor, which asks where its draft was not kept. */
export type Leaving = RefObject<((go: () => void) => void) | null>;

/** For a page that shows editors: what they fill, and doing something in their place, asked about first. */
export function useInstead(): [leaving: Leaving, instead: (go: () => void) => void] {
  const leaving: Leaving = useRef(null);
  return [leaving, (go) => (leaving.current ? leaving.current(go) : go())];
}

/** Asks before a changed draft is left; the dialog it asks by.
 *
 * what : "The medium"; leaving : filled for those who would show something else in the editor's place.
 */
export function useUnkept<T extends FieldValues>(
  form: Draft<T>,
  what: string,
  leaving?: Leaving,
): ReactNode {
  const { ask, dialog } = useLeaving({
    what: form.changed && !form.busy ? `${what} was changed and is not kept yet.` : "",
  });
  useEffect(() => {
    if (!leaving) return;
    leaving.current = ask;
    return () => {
      leaving.current = null;
    };
  });
  return dialog;
}
