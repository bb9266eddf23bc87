import { type RefObject, useLayoutEffect, useState } from "react";

import type { Size } from "./geometry";

/** Size of an element in CSS pixels, as it changes. */
export function useSize(ref: RefObject<HTMLElement | null>): Size {
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new ResizeObserver(([entry]) => {
      if (entry)
        setSize({
          width: Math.floor(entry.contentRect.width),
          height: Math.floor(entry.contentRect.height),
        });
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, [ref]);
  return size;
}
