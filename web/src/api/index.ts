export { api, ask, ProblemError, type Problem } from "./client";
export type * from "./types";
export { pairsOf } from "./pairs";
