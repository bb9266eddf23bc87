import { createContext, useContext } from "react";

import type { InkChannel } from "../api";
import { labColour } from "./labColour";

/** The process inks as they are drawn; others have the colour their profile says they print. */
export const INK_COLOURS: Record<string, string> = {
  C: "#0090c5",
  M: "#cf1f7c",
  Y: "#d9bd00",
  K: "#1b1b1b",
};
/** Dashes tell lines apart without colour vision. */
export const INK_DASHES: Record<string, string> = { C: "7 3", M: "2 3", Y: "9 3 2 3", K: "" };
const MORE_DASHES = ["12 3", "1 5", "5 2 1 2 1 2", "14 3 4 3", "4 6", "1 2", "10 6", "3 1"];
/** L* up to which an ink's colour is seen as a line or a bar on a light ground. */
const LIGHTEST = 78;

/** The inks of what is looked at; plots below it draw them in their own colours. */
export const InkContext = createContext<readonly InkChannel[]>([]);

function colourOf(name: string, inks: readonly InkChannel[]): string {
  const own = inks.find((i) => i.name === name);
  if (name in INK_COLOURS || !own) return INK_COLOURS[name] ?? "#777777";
  const [l = 0, a = 0, b = 0] = own.solid;
  return labColour([Math.min(l, LIGHTEST), a, b]);
}

const letters = (name: string) => {
  const [first = "", second = ""] = name.split(/[\s-]+/);
  return second ? `${first.slice(0, 1)}${second.slice(0, 1)}` : first.slice(0, 1);
};

/** A letter or two for an ink where a name has no room, no two alike: "Violet" V, "Light cyan" Lc;
 * more letters where inks begin alike. */
export function shortInk(name: string, all: readonly string[]): string {
  const others = all.filter((n) => n !== name);
  const own = [letters(name), ...[2, 3, 4].map((n) => name.slice(0, n))];
  const free = (short: string) =>
    others.every(
      (o) => o !== short && letters(o) !== short && !(short.length > 1 && o.startsWith(short)),
    );
  return own.find(free) ?? name;
}

export interface InkLook {
  colour: (name: string) => string;
  dash: (name: string) => string;
}

/** How the inks of what is looked at are drawn. */
export function useInks(): InkLook {
  const inks = useContext(InkContext);
  const more = inks.map((i) => i.name).filter((n) => !(n in INK_DASHES));
  return {
    colour: (name) => colourOf(name, inks),
    dash: (name) =>
      INK_DASHES[name] ?? MORE_DASHES[Math.max(0, more.indexOf(name)) % MORE_DASHES.length] ?? "",
  };
}
