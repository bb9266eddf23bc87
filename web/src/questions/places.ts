import type { FurtherView } from "../api";

export interface Known {
  /** SHA-256 of profiles by their number. */
  sha: Record<string, string>;
}

/** Where a view of an answer opens, with the answer's own parts in it. */
export function placeOf(view: FurtherView, parts: Record<string, string>, known: Known): string {
  const how = view.how ?? {};
  const [one = "", two = ""] = view.of.map((key) => parts[key] ?? "");
  if (view.page === "job") return `/jobs/${one}`;
  if (view.page === "proof") return "/proofs";
  if (view.page === "gamuts") {
    const q = new URLSearchParams();
    for (const key of view.of) {
      const id = parts[key] ?? "";
      q.append("of", key === "picture" ? `picture:${id}` : `profile:${known.sha[id] ?? id}`);
    }
    for (const [name, value] of Object.entries(how)) q.set(name, value);
    return `/gamuts?${q}`;
  }
  if (view.page === "path") {
    const q = new URLSearchParams();
    const intent = how.intent ?? "relative";
    const bpc = how.bpc === "on" && intent !== "absolute" ? "+" : "";
    q.append("step", `profile:${known.sha[one] ?? one}:relative`);
    q.append("step", `profile:${known.sha[two] ?? two}:${intent}${bpc}`);
    return `/paths?${q}`;
  }
  return `/profiles/${one}/${view.page}`;
}
