import { useSyncExternalStore } from "react";

/** Something that was just removed, and the way to get it back. */
export interface Removal {
  name: string;
  undo: () => Promise<unknown>;
}

let last: Removal | null = null;
const listeners = new Set<() => void>();

/** Offers to undo a removal, on whatever page one is, until the next one or until it is dismissed. */
export function offerUndo(removal: Removal | null): void {
  last = removal;
  listeners.forEach((listen) => listen());
}

const subscribe = (listen: () => void) => {
  listeners.add(listen);
  return () => {
    listeners.delete(listen);
  };
};

export const useLastRemoval = () => useSyncExternalStore(subscribe, () => last);
