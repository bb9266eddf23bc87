/** "C 80  Y 20": the inks of a build in percent. */
export const buildText = (inks: Record<string, number>) =>
  Object.entries(inks)
    .map(([ink, percent]) => `${ink}\u00a0${percent}`)
    .join("  ");

/** The inks of a typed build, null where it is none: "C 80 Y 20", "c80, y20". */
export function typedBuild(text: string): Record<string, number> | null {
  const parts = text
    .trim()
    .split(/[\s,;]*(?=[A-Za-z])/)
    .filter(Boolean);
  const found: Record<string, number> = {};
  for (const part of parts) {
    const [, ink, percent] = /^([A-Za-z]+)\s*(\d+(?:\.\d+)?)[\s%,;]*$/.exec(part) ?? [];
    if (!ink || Number(percent) > 100 || ink.toUpperCase() in found) return null;
    found[ink.toUpperCase()] = Number(percent);
  }
  return parts.length > 0 ? found : null;
}
