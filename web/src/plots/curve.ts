import type { CurvePoints } from "../api";

/** Least distance between two points' inputs. */
export const GAP = 1;
export const STRAIGHT: CurvePoints = [
  [0, 0],
  [100, 100],
];
const MOST = 16;

const held = (v: number) => Math.min(100, Math.max(0, v));

/** Move a point; the ends keep their input, and no point passes its neighbours. */
export function movePoint(points: CurvePoints, index: number, x: number, y: number): CurvePoints {
  const last = points.length - 1;
  return points.map((p, i) => {
    if (i !== index) return p;
    if (i === 0 || i === last) return [p[0], round(held(y))];
    const low = (points[i - 1]?.[0] ?? 0) + GAP;
    const high = (points[i + 1]?.[0] ?? 100) - GAP;
    return [round(Math.min(high, Math.max(low, x))), round(held(y))];
  });
}

/** A new point where there is room for one; the same points otherwise. */
export function addPoint(points: CurvePoints, x: number, y: number): CurvePoints {
  if (points.length >= MOST || points.some((p) => Math.abs(p[0] - x) < GAP)) return points;
  return [...points, [round(held(x)), round(held(y))] as [number, number]].sort(
    (a, b) => a[0] - b[0],
  );
}

/** Without an inner point. */
export function removePoint(points: CurvePoints, index: number): CurvePoints {
  return index === 0 || index === points.length - 1 ? points : points.filter((_, i) => i !== index);
}

export const isStraight = (points: number[][] | null | undefined) =>
  !points || points.every(([x = 0, y = 0]) => Math.abs(x - y) < 0.05);

const round = (v: number) => Math.round(v * 10) / 10;

/** The curve between the points, as the server evaluates it: monotone cubic (Fritsch and Carlson). */
export function curveAt(points: CurvePoints, x: number): number {
  const n = points.length;
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  if (x <= (xs[0] ?? 0)) return ys[0] ?? 0;
  if (x >= (xs[n - 1] ?? 100)) return ys[n - 1] ?? 100;
  const h = xs.slice(1).map((v, i) => v - (xs[i] ?? 0));
  const d = ys.slice(1).map((v, i) => (v - (ys[i] ?? 0)) / (h[i] ?? 1));
  const slope = xs.map((_, i) => {
    if (n === 2) return d[0] ?? 0;
    if (i === 0) return endSlope(h[0] ?? 1, h[1] ?? 1, d[0] ?? 0, d[1] ?? 0);
    if (i === n - 1) return endSlope(h[n - 2] ?? 1, h[n - 3] ?? 1, d[n - 2] ?? 0, d[n - 3] ?? 0);
    const [a, b] = [d[i - 1] ?? 0, d[i] ?? 0];
    if (a * b <= 0) return 0;
    const [wa, wb] = [2 * (h[i] ?? 1) + (h[i - 1] ?? 1), (h[i] ?? 1) + 2 * (h[i - 1] ?? 1)];
    return (wa + wb) / (wa / a + wb / b);
  });
  const k = xs.findIndex((_, i) => x <= (xs[i + 1] ?? Infinity));
  const step = h[k] ?? 1;
  const t = (x - (xs[k] ?? 0)) / step;
  const [y0, y1, m0, m1] = [
    ys[k] ?? 0,
    ys[k + 1] ?? 0,
    (slope[k] ?? 0) * step,
    (slope[k + 1] ?? 0) * step,
  ];
  return held(
    (2 * t ** 3 - 3 * t ** 2 + 1) * y0 +
      (t ** 3 - 2 * t ** 2 + t) * m0 +
      (3 * t ** 2 - 2 * t ** 3) * y1 +
      (t ** 3 - t ** 2) * m1,
  );
}

function endSlope(h0: number, h1: number, d0: number, d1: number): number {
  const m = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1);
  if (m * d0 <= 0) return 0;
  return d0 * d1 <= 0 && Math.abs(m) > 3 * Math.abs(d0) ? 3 * d0 : m;
}
