import type { Condition, Profile } from "../api";
import type { Named } from "./Pick";

type Groups = (readonly [heading: string, options: Named])[];

/** One's own rows before those that come with Plinto. */
export function shelves<T>(
  rows: readonly T[],
  own: (row: T) => boolean,
): [own: [string, T[]], shipped: [string, T[]]] {
  return [
    ["Your own", rows.filter(own)],
    ["With Plinto", rows.filter((row) => !own(row))],
  ];
}

export const ownCondition = (c: Condition) => c.own;
export const ownProfile = (p: Profile) => !["standard", "shipped"].includes(p.origin);

/** Conditions to choose from, one's own first, each under its heading. */
export const conditionGroups = (
  conditions: readonly Condition[] | undefined,
  value: (c: Condition) => string = (c) => String(c.id),
): Groups =>
  shelves(conditions ?? [], ownCondition).map(([heading, rows]) => [
    heading,
    rows.map((c) => [value(c), c.name]),
  ]);

/** Profiles to choose from by their digest, one's own first, each under its heading. */
export const profileGroups = (
  profiles: readonly Profile[] | undefined,
  value: (p: Profile) => string = (p) => p.sha256,
): Groups =>
  shelves(profiles ?? [], ownProfile).map(([heading, rows]) => [
    heading,
    rows.map((p) => [value(p), p.description]),
  ]);
