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

export interface Mesh {
  /** L*, a*, b* of the vertices, `columns` in a row. */
  lab: [number, number, number][];
  columns: number;
  /** Vertices of the triangles, seen from outside anticlockwise. */
  triangles: number[];
}

/** The body as a closed mesh: rows every `step` of L* from its darkest to its lightest grey. */
export function meshOf(body: BodyFigures, step = 2): Mesh {
  const rows = [body.darkest];
  for (let l = Math.ceil(body.darkest / step) * step; l < body.lightest; l += step)
    if (l > body.darkest) rows.push(l);
  rows.push(body.lightest);
  const columns = 360 / STEP;
  const last = rows.length - 1;
  const lab = rows.flatMap((l, row) =>
    Array.from({ length: columns }, (_, i): [number, number, number] => {
      const chroma = row === 0 || row === last ? 0 : chromaAt(body, l, i * STEP);
      const hue = (i * STEP * Math.PI) / 180;
      return [l, chroma * Math.cos(hue), chroma * Math.sin(hue)];
    }),
  );
  const triangles: number[] = [];
  for (let row = 0; row < last; row++)
    for (let i = 0; i < columns; i++) {
      const [a, b] = [row * columns + i, row * columns + ((i + 1) % columns)];
      const [c, d] = [a + columns, b + columns];
      triangles.push(a, b, c, b, d, c);
    }
  return { lab, columns, triangles };
}

/** The volume a mesh encloses, in cubic CIELAB units. */
export function volumeOf({ lab, triangles }: Mesh): number {
  let six = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [p, q, r] = [0, 1, 2].map((k) => lab[triangles[t + k] ?? 0] ?? [0, 0, 0]) as [
      number[],
      number[],
      number[],
    ];
    const [a, b, c] = [p, q, r].map(([l = 0, x = 0, y = 0]) => [x, y, l - 50] as const) as [
      readonly [number, number, number],
      readonly [number, number, number],
      readonly [number, number, number],
    ];
    six +=
      a[0] * (b[1] * c[2] - b[2] * c[1]) -
      a[1] * (b[0] * c[2] - b[2] * c[0]) +
      a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return six / 6;
}
