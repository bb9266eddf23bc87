import type { Recipe } from "../api";

/** How far the source is widened, by the rule's space. */
export const SPACES: Record<NonNullable<NonNullable<Recipe["vivid"]>["space"]>, string> = {
  stretch: "Evenly",
  oprgb: "As far as opRGB",
  p3: "As far as P3 D65",
  romm: "As far as ROMM RGB",
};
