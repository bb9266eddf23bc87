import type { QueueEntry } from "../api";

export const STATES: Record<QueueEntry["state"], string> = {
  waiting: "waiting", held: "held", running: "running", done: "done", failed: "failed", cancelled: "cancelled",
};

/** Seconds as people say them. */
export function span(seconds: number): string {
  if (seconds < 1) return "under 1 s";
  if (seconds < 90) return `${Math.round(seconds)} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  return `${(seconds / 3600).toFixed(1)} h`;
}

/** A file's size, small ones in kilobytes. */
export const bytes = (size: number) => (size < 100_000 ? `${(size / 1e3).toFixed(1)} kB` : `${(size / 1e6).toFixed(2)} MB`);

/** State, time and size on one line. */
export function stateFact(e: QueueEntry): string {
  if (e.state === "running") return `${Math.round(e.progress * 100)} %${e.seconds_left === null ? "" : `, about ${span(e.seconds_left)} left`}`;
  if (e.state === "done") return `done${e.seconds === null ? "" : ` in ${span(e.seconds)}`}${e.has_file ? `, ${bytes(e.result_size)}` : ""}`;
  return STATES[e.state];
}

export const PRIORITY: Record<string, string> = { "1": "urgent", "0": "usual", "-1": "less urgent" };

/** Day and time, short and the same everywhere. */
export const moment = (iso: string) => new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
