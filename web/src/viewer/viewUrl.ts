import type { Look } from "./look";

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface ViewRequest {
  destination: number;
  pane: "original" | "proof";
  box: Box;
  columns: number;
  rows: number;
  changes: string;
  /** Changes whenever the saved recipe does, so that no stale picture is shown. */
  stamp: string;
  look: Look;
}

/** Address of a rendered region. The original depends only on the source, so its address does too. */
export function viewUrl(r: ViewRequest): string {
  const q = new URLSearchParams({
    pane: r.pane,
    x: r.box.x.toFixed(2),
    y: r.box.y.toFixed(2),
    w: r.box.w.toFixed(2),
    h: r.box.h.toFixed(2),
    columns: String(r.columns),
    rows: String(r.rows),
  });
  if (r.pane === "proof") {
    q.set("paper", r.look.paper ? "1" : "0");
    q.set("black", r.look.black ? "1" : "0");
    if (r.look.veilOn) q.set("veil", r.look.veil.slice(1));
  }
  if (r.changes) q.set("changes", r.changes);
  q.set("stamp", stampOf(r.stamp));
  return `/api/destinations/${r.destination}/view.png?${q}`;
}

/** A short, stable mark of a text. */
export function stampOf(text: string): string {
  let hash = 5381;
  for (const c of text) hash = ((hash * 33) ^ c.charCodeAt(0)) >>> 0;
  return hash.toString(36);
}
