/** A region of a picture with a grid of sample marks; all in pixels of the picture. */
export interface Region {
  x: number;
  y: number;
  width: number;
  height: number;
  columns: number;
  rows: number;
  mark: number;
}

export const firstRegion = (width: number, height: number): Region => ({
  x: Math.round(width * 0.1),
  y: Math.round(height * 0.1),
  width: Math.round(width * 0.8),
  height: Math.round(height * 0.8),
  columns: 8,
  rows: 6,
  mark: 5,
});

/** A region within a picture, at least one pixel large. */
export function within(region: Region, width: number, height: number): Region {
  const w = Math.min(Math.max(1, Math.round(region.width)), width);
  const h = Math.min(Math.max(1, Math.round(region.height)), height);
  return {
    ...region,
    width: w,
    height: h,
    x: Math.min(Math.max(0, Math.round(region.x)), width - w),
    y: Math.min(Math.max(0, Math.round(region.y)), height - h),
  };
}

/** The region between two corners, in either direction. */
export const between = (
  [x0, y0]: readonly [number, number],
  [x1, y1]: readonly [number, number],
): Pick<Region, "x" | "y" | "width" | "height"> => ({
  x: Math.min(x0, x1),
  y: Math.min(y0, y1),
  width: Math.abs(x1 - x0),
  height: Math.abs(y1 - y0),
});

/** Middles of the marks, row by row, as the server places them. */
export function centres(r: Region): [number, number][] {
  const found: [number, number][] = [];
  for (let row = 0; row < r.rows; row += 1)
    for (let column = 0; column < r.columns; column += 1)
      found.push([
        r.x + ((column + 0.5) * r.width) / r.columns,
        r.y + ((row + 0.5) * r.height) / r.rows,
      ]);
  return found;
}
