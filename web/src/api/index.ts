export { api, ask, type ClashingField, onRevision, type Problem, ProblemError } from "./client";
export { DEFAULTS } from "./defaults";
export { pairsOf } from "./pairs";
export type * from "./types";
