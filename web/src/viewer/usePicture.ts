import { useEffect, useRef, useState } from "react";

import type { Box } from "./viewUrl";

export interface Shown {
  url: string;
  box: Box;
}

/** Loads the newest address one at a time; what was shown stays until the next is complete. */
export function usePicture(url: string | null, box: Box) {
  const [shown, setShown] = useState<Shown | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const wanted = useRef<Shown | null>(null);
  const busy = useRef(false);
  const asked = shown?.url === url;
  useEffect(() => {
    if (!url) return;
    wanted.current = { url, box };
    const next = () => {
      const target = wanted.current;
      if (busy.current || !target) return;
      busy.current = true;
      const image = new Image();
      const done = () => {
        busy.current = false;
        if (wanted.current === target) wanted.current = null;
        else next();
      };
      image.onload = () => {
        setShown(target);
        setFailed(null);
        done();
      };
      image.onerror = () => {
        setFailed(target.url);
        done();
      };
      image.src = target.url;
    };
    next();
    // The box belongs to the address; it never changes without it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [url]);
  return {
    shown,
    loading: Boolean(url) && !asked && failed !== url,
    failed: failed === url && Boolean(url),
  };
}
