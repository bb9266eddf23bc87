import { useState } from "react";

import type { Tool } from "./tools";

type Place = [number, number];

interface Drawing {
  /** Places set so far; the pointer's place follows last while one draws. */
  places: Place[];
  press: (at: Place) => boolean;
  move: (at: Place) => void;
  release: (at: Place) => boolean;
  finish: () => void;
}

const NEAR = 9;

/** Turns presses and moves into what a tool wants; each answers whether the tool took it. */
export function useDrawing(tool: Tool | null, scale: number, stop: () => void): Drawing {
  const [set, setSet] = useState<Place[]>([]);
  const [hover, setHover] = useState<Place | null>(null);
  const done = (places: Place[]) => {
    setSet([]);
    setHover(null);
    stop();
    tool?.onDone(places);
  };
  const close = (a: Place, b: Place) => Math.hypot(a[0] - b[0], a[1] - b[1]) * scale < NEAR;
  return {
    places: tool && hover && set.length ? [...set, hover] : set,
    press: (at) => {
      if (!tool) return false;
      if (tool.kind === "rectangle") setSet([at]);
      else if (tool.kind !== "polygon") done([at]);
      else if (set[0] && set.length >= 3 && close(set[0], at)) done(set);
      else setSet([...set, at]);
      return true;
    },
    move: (at) => {
      if (tool) setHover(at);
    },
    release: (at) => {
      if (tool?.kind !== "rectangle") return tool !== null;
      const first = set[0];
      if (first && !close(first, at)) done([first, at]);
      else setSet([]);
      return true;
    },
    finish: () => {
      if (tool?.kind === "polygon" && set.length >= 3) done(set);
    },
  };
}
