/** Minus and decimals as they are printed. */
export const number = (value: number, digits = 1) =>
  value
    .toFixed(digits)
    .replace(/^-(0(?:\.0*)?)$/, "$1")
    .replace("-", "−");

/** L*, a*, b* for reading; the spaces between them do not break and do not close up. */
export const labText = (lab: readonly number[]) => lab.map((v) => number(v)).join("\u2002");

/** Tones lost in percent by plate, those that can be seen. */
export function lostTones(lost: Record<string, number>): string {
  const seen = Object.entries(lost).filter(([, percent]) => percent >= 0.1);
  if (seen.length === 0) return "on no plate";
  return `${seen.map(([name, percent]) => `${name} ${percent.toFixed(1)}`).join("  ")} %`;
}

/** Seconds as people say them. */
export function span(seconds: number): string {
  if (seconds < 1) return "under 1 s";
  if (seconds < 90) return `${Math.round(seconds)} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  return `${(seconds / 3600).toFixed(1)} h`;
}

/** A file's size, small ones in kilobytes, the smallest counted. */
export const bytes = (size: number) => {
  if (size < 1000) return `${size} ${size === 1 ? "byte" : "bytes"}`;
  return size < 100_000 ? `${(size / 1e3).toFixed(1)} kB` : `${(size / 1e6).toFixed(2)} MB`;
};

/** Day and time, short and the same everywhere. */
export const moment = (iso: string) =>
  new Date(iso).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
