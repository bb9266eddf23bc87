/** Lab (D50) to red, green and blue of sRGB, 0 to 255, clipped. */
export function labCodes([l, a, b]: readonly number[]): [number, number, number] {
  const fy = ((l ?? 0) + 16) / 116;
  const cube = (t: number) => (t > 6 / 29 ? t ** 3 : (t - 4 / 29) * 3 * (6 / 29) ** 2);
  const x = 0.9642 * cube(fy + (a ?? 0) / 500);
  const y = cube(fy);
  const z = 0.8249 * cube(fy - (b ?? 0) / 200);
  // XYZ under D50 to linear sRGB (IEC 61966-2-1 with Bradford adaptation).
  const linear = [
    3.1338561 * x - 1.6168667 * y - 0.4906146 * z,
    -0.9787684 * x + 1.9161415 * y + 0.033454 * z,
    0.0719453 * x - 0.2289914 * y + 1.4052427 * z,
  ];
  const code = linear.map((v) => {
    const c = Math.min(1, Math.max(0, v));
    return Math.round(255 * (c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055));
  });
  return code as [number, number, number];
}

/** Lab (D50) to a CSS colour in sRGB, clipped; for swatches beside figures, not for judging colour. */
export const labColour = (lab: readonly number[]): string => `rgb(${labCodes(lab).join(" ")})`;
