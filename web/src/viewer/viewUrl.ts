import { type Look, SCREEN_VEIL } from "./look";

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface ViewRequest {
  destination: number;
  /** The picture under the job, which another can take the place of. */
  artwork?: number;
  pane: "original" | "corrected" | "unconverted" | "proof";
  box: Box;
  columns: number;
  rows: number;
  /** The colour part of the recipe as JSON; it decides the picture together with the rest. */
  colours: string;
  /** A former moment of the recipe in place of the colours. */
  moment?: string;
  look: Look;
  /** The outermost colours of the artwork's space in place of the picture. */
  bar?: boolean;
  /** The bare medium, one pixel, in place of the picture. */
  sheet?: boolean;
}

/** The part of the colours that the original depends on, so that its picture is fetched once. */
export function sourceOf(colours: string): string {
  const { source, negative } = JSON.parse(colours) as { source: string | null; negative: boolean };
  return JSON.stringify({ source, negative });
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
  if (r.bar) q.set("bar", "1");
  if (r.sheet) q.set("sheet", "1");
  if (r.look.display !== "srgb") q.set("display", r.look.display);
  if (r.pane === "unconverted") {
    q.set("plays", r.look.plays);
    if (r.look.map === "tac") q.set("map", "tac");
  }
  if (r.pane === "proof") {
    q.set("plays", r.look.plays);
    if (r.look.veilOn) q.set("veil", r.look.veil.replace("#", ""));
    if (r.look.veilOn && r.look.ways.length < 3) q.set("ways", r.look.ways.join(","));
    if (r.look.screenVeilOn) q.set("screen_veil", SCREEN_VEIL.slice(1));
    if (r.look.breakUp) q.set("break_up", String(r.look.breakUp));
    if (r.look.map) q.set("map", r.look.map);
    if (r.look.map === "correction") q.set("correction", String(r.look.correction));
    if (r.look.plates) {
      q.set("plates", r.look.plates.join(","));
      if (r.look.grey) q.set("grey", "1");
    }
  }
  if (r.artwork !== undefined) q.set("of", String(r.artwork));
  if (r.moment !== undefined) {
    const [number, stamp] = r.moment.split(":");
    q.set("moment", number ?? "0");
    q.set("of", `${stamp ?? ""}-${r.artwork ?? ""}`);
  } else {
    q.set("changes", r.colours);
  }
  return `/api/destinations/${r.destination}/view.png?${q}`;
}
