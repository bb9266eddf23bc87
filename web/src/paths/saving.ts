export type SavedKind = "link" | "abstract" | "baked" | "cube";

/** What a path between two spaces can be saved as, the likeliest first. */
export function kindsOf(from: string, to: string, coloured: boolean): SavedKind[] {
  const kinds: SavedKind[] = [];
  if (from === "Lab" && to === "Lab") return ["abstract"];
  kinds.push("link");
  if (from !== "Lab" && coloured) kinds.push("baked");
  if (from === "RGB" && to === "RGB") kinds.push("cube");
  return kinds;
}

/** Nodes a side that a table of a space can have, as the server offers them. */
export const gridsOf = (from: string): number[] =>
  from === "CMYK" ? [9, 13, 17, 25] : from === "GRAY" ? [255] : [17, 25, 33, 49, 65];
