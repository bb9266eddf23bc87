import { type ReactNode, type RefObject, useEffect } from "react";
import type { FieldValues } from "react-hook-form";

import type { Draft } from "./useDraft";
import { useLeaving } from "./useLeaving";

/** The way to leave an editor, which asks where its draft was not kept. */
export type Leaving = RefObject<((go: () => void) => void) | null>;

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
