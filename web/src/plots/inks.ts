/** Inks are drawn in their own colours; dashes tell them apart without colour vision. */
export const INK_COLOURS: Record<string, string> = {
  C: "#0090c5",
  M: "#cf1f7c",
  Y: "#d9bd00",
  K: "#1b1b1b",
};
export const INK_DASHES: Record<string, string> = { C: "7 3", M: "2 3", Y: "9 3 2 3", K: "" };
export const inkColour = (name: string) => INK_COLOURS[name] ?? "#777777";
