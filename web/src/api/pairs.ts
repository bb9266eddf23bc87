/** Pairs of numbers as the API gives them (plain lists) to pairs. */
export const pairsOf = (lists: number[][]): [number, number][] =>
  lists.map(([x = 0, y = 0]) => [x, y]);
