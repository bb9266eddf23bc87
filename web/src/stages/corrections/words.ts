import { type Correction, pairsOf } from "../../api";
import { isStraight } from "../../plots";

export const PLAIN: Correction = {
  name: "",
  on: true,
  region: null,
  colours: null,
  curves: null,
  lightness: 0,
  chroma: 0,
  hues: [],
  black: null,
};

export const MOST_REGIONS = 6;

const signed = (v: number) => `${v > 0 ? "+" : "−"}${Math.abs(v).toFixed(0)}`;

/** Where a correction acts, in a few words. */
export function placeOf(c: Correction): string {
  const where = c.region ? (c.region.outside ? "outside a region" : "in a region") : "everywhere";
  return c.colours ? `${where}, chosen colours` : where;
}

/** What a correction does, in a few words. */
export function effectOf(c: Correction): string {
  const parts = [
    c.curves && (!isStraight(c.curves.master) || Object.keys(c.curves.channels).length > 0)
      ? "curve"
      : "",
    c.lightness ? `lightness ${signed(c.lightness)}` : "",
    c.chroma ? `chroma ${signed(c.chroma)}` : "",
    c.hues.length ? `${c.hues.length} ${c.hues.length === 1 ? "hue" : "hues"}` : "",
    c.black ? "black remade" : "",
  ].filter(Boolean);
  return parts.join(", ") || "changes nothing yet";
}

/** The corners of a rectangle or polygon drawn in pixels, in percent of the picture. */
export function cornersOf(
  places: [number, number][],
  width: number,
  height: number,
): [number, number][] {
  const [a, b] = places;
  const all: [number, number][] =
    places.length === 2 && a && b ? [a, [b[0], a[1]], b, [a[0], b[1]]] : places;
  const percent = (v: number, full: number) =>
    Math.min(200, Math.max(-100, Math.round((v / full) * 10_000) / 100));
  return all.map(([x, y]) => [percent(x, width), percent(y, height)]);
}

/** Corners in percent as pixels of the picture. */
export const pixelsOf = (corners: number[][], width: number, height: number): [number, number][] =>
  pairsOf(corners).map(([x, y]) => [(x / 100) * width, (y / 100) * height]);
