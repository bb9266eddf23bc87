import { useCallback, useEffect, useRef, useState } from "react";

import { api, ask, type Readout } from "../api";

export interface Pointer {
  at: [number, number] | null;
  readout: Readout | null;
  move: (x: number, y: number) => void;
}

/** The numbers at the pointer; asks for the newest place only, and again when the recipe changes. */
export function usePointer(destination: number, colours: string): Pointer {
  const [at, setAt] = useState<[number, number] | null>(null);
  const [readout, setReadout] = useState<Readout | null>(null);
  const busy = useRef(false);
  const wanted = useRef<[number, number] | null>(null);
  const latest = useRef(colours);
  const fetchNext = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    while (wanted.current) {
      const [x, y] = wanted.current;
      wanted.current = null;
      const query = { x, y, changes: latest.current };
      try {
        setReadout(
          await ask(
            api.GET("/api/destinations/{id}/readout", {
              params: { path: { id: destination }, query },
            }),
          ),
        );
      } catch {
        setReadout(null);
      }
    }
    busy.current = false;
  }, [destination]);
  const move = useCallback(
    (x: number, y: number) => {
      const place: [number, number] = [Math.floor(x), Math.floor(y)];
      setAt(place);
      wanted.current = place;
      void fetchNext();
    },
    [fetchNext],
  );
  useEffect(() => {
    latest.current = colours;
    if (at) {
      wanted.current = at;
      void fetchNext();
    }
    // The place asks for itself when it moves; here only the recipe matters.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [colours, fetchNext]);
  return { at, readout, move };
}
