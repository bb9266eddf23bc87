import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** Whether the content of an element needs more width than there is; asked again when either changes. */
export function useOverflow(content: string): [RefObject<HTMLDivElement | null>, boolean] {
  const ref = useRef<HTMLDivElement>(null);
  const [folds, setFolds] = useState(false);
  // What the unfolded content needed, so that it unfolds again only where there is room for it.
  const needed = useRef(0);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    needed.current = 0;
    setFolds(false);
    const look = () => {
      const inner = element.firstElementChild as HTMLElement | null;
      if (!inner) return;
      setFolds((folded) => {
        if (!folded) needed.current = inner.offsetWidth;
        return needed.current > element.clientWidth - 6;
      });
    };
    look();
    const observer = new ResizeObserver(look);
    observer.observe(element);
    // The content grows by itself too, when an answer brings more of it.
    if (element.firstElementChild) observer.observe(element.firstElementChild);
    return () => observer.disconnect();
  }, [content]);
  return [ref, folds];
}
