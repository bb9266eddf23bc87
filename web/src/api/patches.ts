/** Changes as the API takes them (RFC 7396): an object of the fields that change, null removes a key. */
export type Json = null | boolean | number | string | Json[] | { [key: string]: Json | undefined };
export type Patch = Record<string, unknown>;

/** Objects whose keys are data: a key that is missing there was removed. */
export const RECIPE_KEYS = new Set(["plates", "ink_rules.limits", "delivery.films.angles"]);
export const POLICY_KEYS = new Set(["sources", "builds", "images"]);
/** Objects whose values are changed as a whole: the inks of a build belong together. */
const WHOLE = new Set(["builds"]);
const NONE = new Set<string>();

const isObject = (value: unknown): value is Patch =>
  typeof value === "object" && value !== null && !Array.isArray(value);
/** Whether two JSON values hold the same; the order of keys is nobody's choice. */
export function alike(a: unknown, b: unknown): boolean {
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((value, i) => alike(value, b[i]));
  if (!isObject(a) || !isObject(b)) return a === b;
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...names].every((name) => alike(a[name], b[name]));
}

/** What changes when `next` is laid over `base`; both whole objects, or `next` a part of one. */
export function patchBetween(
  base: unknown,
  next: Patch,
  keys: ReadonlySet<string> = NONE,
  way = "",
): Patch {
  const from: Patch = isObject(base) ? base : {};
  const found: Patch = {};
  for (const [key, value] of Object.entries(next)) {
    const path = way ? `${way}.${key}` : key;
    if (isObject(value) && isObject(from[key]) && !WHOLE.has(way)) {
      const inner = patchBetween(from[key], value, keys, path);
      if (Object.keys(inner).length > 0) found[key] = inner;
    } else if (!alike(value, from[key])) found[key] = value;
  }
  if (keys.has(way)) for (const key of Object.keys(from)) if (!(key in next)) found[key] = null;
  return found;
}

/** `base` with a patch laid over it, as the server does it. */
export function patched<T>(base: T, patch: Patch, keys: ReadonlySet<string> = NONE, way = ""): T {
  const out: Patch = isObject(base) ? { ...base } : {};
  for (const [key, value] of Object.entries(patch)) {
    const path = way ? `${way}.${key}` : key;
    if (value === null && keys.has(way)) {
      out[key] = undefined;
      Reflect.deleteProperty(out, key);
    } else
      out[key] =
        isObject(value) && !WHOLE.has(way)
          ? patched(isObject(out[key]) ? out[key] : {}, value, keys, path)
          : value;
  }
  return out as T;
}

/** Dotted names of all values in a patch. */
export function pathsOf(patch: Patch, way = ""): string[] {
  return Object.entries(patch).flatMap(([key, value]) => {
    const path = way ? `${way}.${key}` : key;
    return isObject(value) && Object.keys(value).length > 0 ? pathsOf(value, path) : [path];
  });
}

/** The value under a dotted name. */
export const valueAt = (value: unknown, path: string): unknown =>
  path
    .split(".")
    .reduce<unknown>((inner, key) => (isObject(inner) ? inner[key] : undefined), value);
