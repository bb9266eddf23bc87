import {
  DEFAULTS,
  type Flow,
  type Intent,
  type OutputPolicy,
  type PolicyObject,
  type PolicyRule,
} from "../api";
import { shortInk } from "../plots/inks";
import { INTENT_NAMES } from "../ui/wording";

export const TEMPLATES = {
  "strict-press": "Strict press",
  "office-files": "Kind to office files",
  "bare-cmyk": "Receiver wants bare CMYK",
  "textile-transfer": "Textile transfer",
} as const;

export const OBJECTS: Record<PolicyRule["objects"], string> = {
  all: "Everything",
  images: "Images",
  "line art": "Line art, 1 bit",
  vectors: "Text and vectors",
  text: "Text",
  shadings: "Shadings",
};
export const SPACES: Record<PolicyRule["space"], string> = {
  all: "any space",
  RGB: "RGB",
  CMYK: "CMYK",
  grey: "grey",
  Lab: "Lab",
  spot: "spot colours",
};
export const ACTIONS: Record<PolicyRule["action"], string> = {
  convert: "Convert",
  leave: "Leave",
  black: "To black",
  "keep spot": "Keep spot",
  stop: "Stop",
};
const names = Object.entries(INTENT_NAMES) as [Intent, string][];
export const INTENTS = {
  ...Object.fromEntries(names.map(([intent, name]) => [intent, name.toLowerCase()])),
  own: "the object's own",
} as Record<PolicyRule["intent"], string>;

export const FALLBACKS = Object.fromEntries(
  names.map(([intent, name]) => [intent, `else ${name.toLowerCase().split(" ")[0]}`]),
) as Record<PolicyRule["fallback"], string>;
export const PDFX: Record<NonNullable<OutputPolicy["pdfx"]>, string> = {
  none: "none",
  "PDF/X-1a:2001": "PDF/X-1a:2001",
  "PDF/X-1a:2003": "PDF/X-1a:2003",
  "PDF/X-3:2002": "PDF/X-3:2002",
  "PDF/X-3:2003": "PDF/X-3:2003",
  "PDF/X-4": "PDF/X-4",
};
export const STRETCHES = {
  none: "no stretch",
  25: "stretch 25 %",
  50: "stretch 50 %",
  75: "stretch 75 %",
  100: "stretch 100 %",
} as const;
export type Stretch = keyof typeof STRETCHES;

/** How far chroma is stretched before a rule converts, as the list offers it. */
export function stretchOf(rule: PolicyRule): `${Stretch}` {
  const strength = rule.vivid?.strength ?? 0;
  const near = Math.round(strength / 25) * 25;
  return near === 0 ? "none" : (String(near) as `${Stretch}`);
}

export const vividOf = (stretch: `${Stretch}`): PolicyRule["vivid"] =>
  stretch === "none" ? null : { space: "stretch", strength: Number(stretch) };

export const NEW_RULE: PolicyRule = {
  ...DEFAULTS.Rule,
  objects: "images",
  space: "RGB",
  action: "convert",
};

/** The signatures that rules' spaces have among profiles. */
export const SIGNATURES: Partial<Record<PolicyRule["space"], string>> = {
  RGB: "RGB",
  CMYK: "CMYK",
  grey: "GRAY",
};

/** What a rule is for. */
export function ruleFor(rule: PolicyRule): string {
  const space = rule.space === "spot" && rule.spot ? `spot “${rule.spot}”` : SPACES[rule.space];
  const what = rule.objects === "all" ? "Everything" : OBJECTS[rule.objects];
  return `${what}${rule.below ? ` below ${rule.below} pt` : ""} in ${space}${rule.pages ? `, pages ${rule.pages}` : ""}${rule.layer ? `, layer “${rule.layer}”` : ""}`;
}

/** What a rule does, beside its action. */
export function ruleDetail(rule: PolicyRule | undefined): string {
  if (!rule || (rule.action !== "convert" && rule.action !== "black")) return "";
  const intent =
    rule.intent === "own" ? `own intent, else ${INTENTS[rule.fallback]}` : INTENTS[rule.intent];
  const stretch = rule.vivid ? `, stretched ${rule.vivid.strength} %` : "";
  return rule.action === "black" ? "by lightness" : `${intent}${rule.bpc ? ", BPC" : ""}${stretch}`;
}

/** What decides the colours of a row of the flow. */
export function flowDetail(
  f: Pick<Flow, "rule" | "action" | "spot">,
  policy: OutputPolicy,
): string {
  if (!f.rule) return "no rule fits";
  if (f.action === "convert" && policy.builds?.[f.spot]) return "by its build";
  return ruleDetail(policy.rules[f.rule - 1]) || `rule ${f.rule}`;
}

const GROUPS: Record<string, string> = {
  image: "images",
  vector: "text and vectors",
  text: "text and vectors",
  shading: "shadings",
};

/** The kind that the flow counts an object with: as fine as the policy's rules are. */
export function groupOf(o: Pick<PolicyObject, "kind" | "bits">, policy: OutputPolicy): string {
  const rules = policy.rules ?? [];
  if (o.kind === "image" && o.bits === 1 && rules.some((r) => r.objects === "line art"))
    return "line art";
  if (rules.some((r) => r.objects === "text" || r.below)) {
    if (o.kind === "text") return "text";
    if (o.kind === "vector") return "vectors";
  }
  return GROUPS[o.kind] ?? "";
}

/** The name of a row of the flow: what was found. */
export function foundName(f: Pick<Flow, "space" | "objects" | "spot">): string {
  if (f.space === "spot")
    return `Spot “${f.spot}”${f.objects === "text and vectors" ? "" : `, ${f.objects}`}`;
  const space = f.space === "grey" ? "Grey" : f.space;
  return `${space} ${f.objects}`;
}

/** Where objects come out, in plain words. */
export function outcomeName(outcome: string, destination: string): string {
  const words: Record<string, string> = {
    "black only": "Black only",
    stopped: "Stopped",
    DeviceGray: "Grey, left",
    DeviceRGB: "RGB, left",
    DeviceCMYK: destination,
    DeviceN: destination || "The destination’s inks",
    ICCBased: "Left, with its profile",
    Indexed: "Palette, left",
    CalRGB: "Calibrated RGB, left",
    CalGray: "Calibrated grey, left",
  };
  return words[outcome] ?? outcome;
}

const numbers = (values: number[]) =>
  values.map((v) => (Number.isInteger(v) ? String(v) : v.toFixed(1)).replace("-", "−")).join(" ");
const CHANNELS: Record<string, string[]> = {
  RGB: ["R", "G", "B"],
  CMYK: ["C", "M", "Y", "K"],
  grey: ["Grey"],
  Lab: ["L*", "a*", "b*"],
};

/** Values with the names of their channels. */
function namedValues(values: number[], names: string[]): string {
  if (names.length !== values.length) return numbers(values);
  return values.map((v, i) => `${names[i]} ${numbers([v])}`).join("  ");
}

type Colour = Pick<PolicyObject, "family" | "spot">;

/** A colour as it came, each value with its channel. */
export const before = (o: Pick<PolicyObject, "values"> & Colour) =>
  namedValues(o.values, o.family === "spot" ? o.spot : (CHANNELS[o.family] ?? []));

const LETTERS: Record<string, string> = { Cyan: "C", Magenta: "M", Yellow: "Y", Black: "K" };

/** Inks that print, of a set of more than people would read through. */
function printing(values: number[], inks: readonly string[]): string {
  const used = values.flatMap((v, i) => {
    const name = inks[i] ?? "";
    return v > 0 ? [`${LETTERS[name] ?? shortInk(name, inks)} ${numbers([v])}`] : [];
  });
  return used.length > 0 ? used.join("  ") : "no ink";
}

/** A colour as it comes out, each value with its channel; of other inks than four those that print. */
export function after(
  o: Pick<PolicyObject, "after" | "action" | "outcome"> & Colour,
  inks: readonly string[] = [],
): string {
  if (o.action === "stop") return "–";
  const own = o.outcome === "DeviceN" || (o.outcome === "black only" && inks.length !== 4);
  if (own && o.after.length === inks.length) return printing(o.after, inks);
  const stays =
    o.after.length !== 4 && !o.outcome.startsWith("Device") && o.outcome !== "black only";
  if (stays && o.family === "spot") return namedValues(o.after, o.spot);
  if (stays && o.family === "Lab") return namedValues(o.after, CHANNELS.Lab ?? []);
  const names = o.after.length === 4 ? "CMYK" : o.after.length === 3 ? "RGB" : "grey";
  return namedValues(o.after, CHANNELS[names] ?? []);
}

/** What tells rows of the flow apart: what was found, the rule that fits, where it comes out. */
export const flowKey = (name: string, rule: number, outcome: string) =>
  `${name}-${rule}-${outcome}`;

/** A policy's deciding facts on one line. */
export function policyFact(policy: OutputPolicy): string {
  const tac = policy.tac
    ? `TAC ${policy.tac} % ${policy.tac_action === "enforce" ? "enforced" : "reported"}`
    : "no TAC";
  return `${policy.rules.length} rules, ${tac}, profile ${policy.profile_in ? "in" : "out"}`;
}
