import { later } from "../ui/later";

/** The drawing in space is fetched when it is asked for: its library is larger than all the rest. */
export const Space = later(() => import("./Space").then((m) => m.Space));

export function hasWebGL(): boolean {
  try {
    return document.createElement("canvas").getContext("webgl2") !== null;
  } catch {
    return false;
  }
}
