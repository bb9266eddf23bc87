/** The plates shown after one is pressed: all, then that one alone, then any mix, and back to all. */
export function pressPlate(names: string[], shown: string[] | null, name: string): string[] | null {
  if (shown === null) return [name];
  const next = shown.includes(name)
    ? shown.filter((n) => n !== name)
    : names.filter((n) => n === name || shown.includes(n));
  return next.length === 0 || next.length === names.length ? null : next;
}
