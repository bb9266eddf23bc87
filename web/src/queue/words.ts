import type { QueueEntry } from "../api";
import { bytes, span } from "../ui";

export const STATES: Record<QueueEntry["state"], string> = {
  waiting: "waiting",
  held: "held",
  running: "running",
  done: "done",
  failed: "failed",
  cancelled: "cancelled",
};

/** State, time and size on one line. */
export function stateFact(e: QueueEntry): string {
  if (e.state === "running")
    return `${Math.round(e.progress * 100)} %${e.seconds_left === null ? "" : `, about ${span(e.seconds_left)} left`}`;
  if (e.state === "done")
    return `done${e.seconds === null ? "" : ` in ${span(e.seconds)}`}${e.has_file ? `, ${bytes(e.result_size)}` : ""}`;
  return STATES[e.state];
}

export const PRIORITY: Record<string, string> = {
  "1": "urgent",
  "0": "usual",
  "-1": "less urgent",
};
