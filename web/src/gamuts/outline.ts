import type { BodyFigures } from "../api";

/** Degrees between the hues, and L* between the rows, that outlines come with. */
const STEP = 3;
const ROWS = 101;

/** The largest C*ab of a body at a lightness and hue, between the places that are known. */
export function chromaAt(body: BodyFigures, lightness: number, hue: number): number {
  if (lightness < body.darkest || lightness > body.lightest) return 0;
  const row = Math.min(ROWS - 1, Math.max(0, lightness));
  const column = ((((hue % 360) + 360) % 360) / STEP) % (360 / STEP);
  const [r, c] = [Math.floor(row), Math.floor(column)];
  const at = (i: number, j: number) => body.chroma[Math.min(ROWS - 1, i)]?.[j % (360 / STEP)] ?? 0;
  const [u, v] = [row - r, column - c];
  return (
    (1 - u) * ((1 - v) * at(r, c) + v * at(r, c + 1)) +
    u * ((1 - v) * at(r + 1, c) + v * at(r + 1, c + 1))
  );
}

export type Point = [number, number];

/** The outline of a body at a lightness, as a* and b*; nothing where it has no such lightness. */
export function cutOutline(body: BodyFigures, lightness: number): Point[] {
  if (lightness < body.darkest || lightness > body.lightest) return [];
  return Array.from({ length: 360 / STEP }, (_, i) => {
    const chroma = chromaAt(body, lightness, i * STEP);
    const hue = (i * STEP * Math.PI) / 180;
    return [chroma * Math.cos(hue), chroma * Math.sin(hue)];
  });
}

/** The outline of a body at a hue and at its opposite, as signed C*ab and L*: the hue to the right. */
export function leafOutline(body: BodyFigures, hue: number): Point[] {
  const inner = Array.from({ length: ROWS }, (_, l) => l).filter(
    (l) => l > body.darkest && l < body.lightest,
  );
  const side = (h: number, sign: number): Point[] =>
    inner.map((l) => [sign * chromaAt(body, l, h), l]);
  return [[0, body.darkest], ...side(hue, 1), [0, body.lightest], ...side(hue + 180, -1).reverse()];
}

/** How far a colour lies beyond a body along its chroma, in C*ab: negative inside. */
export function beyond(body: BodyFigures, [l, a, b]: readonly number[]): number {
  const [lightness = 0, x = 0, y = 0] = [l, a, b];
  const hue = (Math.atan2(y, x) * 180) / Math.PI;
  return Math.hypot(x, y) - chromaAt(body, lightness, hue);
}

/** Half the width of the plots in C*ab: the next twenty above all that is drawn. */
export function reachOf(bodies: BodyFigures[], points: readonly (readonly number[])[]): number {
  const most = Math.max(
    40,
    ...bodies.map((b) => b.most_chroma),
    ...points.map(([, a = 0, b = 0]) => Math.hypot(a, b)),
  );
  return Math.ceil((most + 2) / 20) * 20;
}

/** Line styles of bodies, told apart without colour. */
export const DASHES = ["", "8 4", "2 3", "10 3 2 3"];
