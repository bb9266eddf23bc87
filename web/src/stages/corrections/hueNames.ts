/** Hues by their CIELAB angle, for finding one's way; each band can be moved from there. */
export const HUES = [
  { hue: 30, name: "red" },
  { hue: 65, name: "orange" },
  { hue: 95, name: "yellow" },
  { hue: 140, name: "green" },
  { hue: 200, name: "cyan" },
  { hue: 270, name: "blue" },
  { hue: 315, name: "violet" },
  { hue: 350, name: "magenta" },
] as const;

const away = (a: number, b: number) => Math.abs(((a - b + 540) % 360) - 180);

/** The nearest name of a hue angle. */
export function hueName(hue: number): string {
  return [...HUES].sort((a, b) => away(a.hue, hue) - away(b.hue, hue))[0]?.name ?? "";
}

/** A middle colour of a CIELAB hue for the screen. */
export const hueColour = (hue: number) => `lch(62 55 ${hue})`;
