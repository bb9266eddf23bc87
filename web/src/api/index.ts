export { api, ask, type ClashingField, onRevision, type Problem, ProblemError } from "./client";
export { pairsOf } from "./pairs";
export type * from "./types";
