import type { Artwork, Condition, Destination, Intent, Recipe } from "../api";
import { BLACK_METHODS } from "./blackMethods";

export const STAGES = [
  { key: "artwork", label: "Artwork" },
  { key: "source", label: "Source" },
  { key: "press-view", label: "Press view" },
  { key: "inks", label: "Inks" },
  { key: "deliver", label: "Deliver" },
] as const;

export type Stage = (typeof STAGES)[number]["key"];

export const INTENT_NAMES: Record<Intent, string> = {
  perceptual: "Perceptual",
  relative: "Relative colorimetric",
  saturation: "Saturation",
  absolute: "Absolute colorimetric",
};

export const INTENT_SENTENCES: Record<Intent, string> = {
  perceptual:
    "Perceptual moves every colour a little so that steps stay steps; vivid colours give up most.",
  relative:
    "Relative colorimetric keeps what fits and moves only what does not; steps beyond the gamut's edge can flatten.",
  saturation:
    "Saturation pushes colours towards vividness; made for flat graphics, not for photographs.",
  absolute:
    "Absolute colorimetric also prints the artwork's own white on the medium; made for proofs.",
};

const SPACE_CODES: Record<string, string> = { RGB: "RGB", Grey: "GRAY", CMYK: "CMYK" };
/** The colour space signature that profiles of an artwork must have. */
export const profileSpace = ({ facts }: Artwork) =>
  facts.inks?.length
    ? `${facts.inks.length.toString(16).toUpperCase()}CLR`
    : (SPACE_CODES[facts.space] ?? facts.space);

export function artworkLine(artwork: Artwork): string[] {
  const f = artwork.facts;
  const print =
    f.print_size_mm && f.resolution
      ? `${f.print_size_mm.map((v) => v.toFixed(0)).join(" × ")} mm at ${f.resolution[0]?.toFixed(0)} ppi`
      : "no resolution stated";
  return [
    `${f.format}, ${f.space}, ${f.bits} bit${f.transparency ? ", transparency" : ""}`,
    `${f.width} × ${f.height} px, ${print}`,
    f.profile ? `${f.profile}, embedded` : "no profile embedded",
  ];
}

export function sourceFact(destination: Destination): string {
  const { profile, origin, problem } = destination.source;
  if (problem) return "needs a profile";
  const how: Record<string, string> = {
    embedded: "embedded and kept",
    assigned: "assigned",
    declared: "as the file declares",
    "house default": "house default",
  };
  return `${profile ?? ""}, ${how[origin] ?? origin}`;
}

/** The three ways of being out of gamut, in the order in which they are shown. */
export const WAYS = ["vivid", "dark", "light"] as const;
export const WAY_NAMES: Record<(typeof WAYS)[number], string> = {
  vivid: "too vivid",
  dark: "too dark",
  light: "too light",
};

/** Whether a condition prints inks; others expose or show RGB. */
export const hasInks = (condition: Condition) => condition.profile.inks !== null;

export function inksFact(recipe: Recipe, destination: Destination): string {
  if (!hasInks(destination.condition)) return "none, the process takes RGB";
  const { tac_max, tac_rule } = destination.facts;
  const reached =
    tac_max === undefined ? "" : `TAC ${tac_max.toFixed(0)} of ${(tac_rule ?? 0).toFixed(0)} %`;
  if (recipe.link) return `${reached || "measuring"}, by a device link`;
  if (destination.source.same_space && recipe.numbers === "keep")
    return `${reached || "measuring"}, the artwork's own numbers`;
  if (!recipe.ink_rules) return `${reached || "measuring"}, as profiled`;
  const black = recipe.ink_rules.black;
  const how = black ? BLACK_METHODS[black.method].short(black) : "profile's black";
  return `${reached || "measuring"}, ${how}`;
}

export function deliverFact(recipe: Recipe): string {
  const d = recipe.delivery;
  const turned = `${d.turn ? `, turned ${d.turn}°` : ""}${d.mirror ? ", mirrored" : ""}${d.negative ? ", plates reversed" : ""}`;
  if (d.films)
    return `Films, ${d.films.screening === "am" ? `${d.films.ruling} lpi` : "FM"}, ${d.format}${turned}`;
  return `${d.format} ${d.bits} bit, profile ${d.embed ? "in" : "out"}${d.resolution ? `, ${d.resolution} ppi` : ""}${turned}`;
}
