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
  /** The colour part of the recipe as JSON; it decides the picture together with the rest. */
  colours: string;
  look: Look;
}

/** Address of a rendered region; the same address always means the same picture. */
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
    if (r.look.map) q.set("map", r.look.map);
    if (r.look.plates) {
      q.set("plates", r.look.plates.join(","));
      if (r.look.grey) q.set("grey", "1");
    }
  }
  q.set("changes", r.colours);
  return `/api/destinations/${r.destination}/view.png?${q}`;
}
