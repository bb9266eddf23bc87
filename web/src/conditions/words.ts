import type { Condition, ConditionChange, Profile } from "../api";

export const PROCESSES: Record<ConditionChange["process"] & string, string> = {
  offset: "Offset",
  flexo: "Flexo",
  gravure: "Gravure",
  screen: "Screen printing",
  transfer: "Transfer",
  inkjet: "Inkjet",
  photographic: "Photographic",
  display: "Screen or web",
};

export const processName = (process: string) =>
  PROCESSES[process as keyof typeof PROCESSES] ?? process;

/** Names of the inks that rules and prices are set for; a process that takes RGB or grey has none. */
export const inkNames = (profile: Profile): string[] =>
  profile.inks?.channels.map((c) => c.name) ?? [];

const SPACES: Record<string, string> = { CMYK: "CMYK", RGB: "RGB", GRAY: "one ink" };
/** What a profile prints with, in a word or two: "CMYK", "7 inks: C M Y K, Orange, Green, Violet". */
export function inksOf(profile: Profile): string {
  const names = inkNames(profile);
  if (names.length === 0 || profile.colour_space in SPACES)
    return SPACES[profile.colour_space] ?? profile.colour_space;
  const short = names.filter((n) => n.length === 1).join(" ");
  const rest = names.filter((n) => n.length > 1);
  const many = names.length === 1 ? "1 ink" : `${names.length} inks`;
  return `${many}: ${[short, ...rest].filter(Boolean).join(", ")}`;
}

/** What can be changed of a condition, as the form holds it. */
export const changeOf = (c: Condition): ConditionChange => ({
  name: c.name,
  printer: c.printer,
  medium: c.medium,
  process: c.process as ConditionChange["process"],
  mirror: c.mirror ?? false,
  least_dot: c.least_dot ?? 0,
  ink_rules: c.ink_rules,
  supplies: c.supplies,
  ticket: c.ticket,
  notes: c.notes ?? "",
});

/** Whether a condition answers to what was typed: its name, press, medium, process or profile. */
export function answersTo(c: Condition, typed: string): boolean {
  const text = [
    c.name,
    c.printer,
    c.medium,
    processName(c.process ?? ""),
    c.profile.description,
    c.profile.colour_space,
  ]
    .join(" ")
    .toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
