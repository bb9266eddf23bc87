export { api, ask, onRevision, ProblemError, type ClashingField, type Problem } from "./client";
export type * from "./types";
export { pairsOf } from "./pairs";
