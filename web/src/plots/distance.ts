/** The distance scale at equal steps, as the server draws it from 0 to 20 dE00. */
export const DISTANCE_STEPS = [
  "#112348",
  "#2f3d62",
  "#4c597d",
  "#727783",
  "#979788",
  "#c9c07e",
  "#fced6e",
] as const;

/** Where the scale of distances ends, in dE00. */
export const DISTANCE_END = 20;

/** The colour of a distance on the scale, by the nearest step below. */
export function distanceColour(value: number): string {
  const at = Math.min(1, Math.abs(value) / DISTANCE_END) * (DISTANCE_STEPS.length - 1);
  return DISTANCE_STEPS[Math.floor(at)] ?? DISTANCE_STEPS[0];
}
