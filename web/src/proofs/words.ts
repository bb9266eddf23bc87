import type { ProofCriterion } from "../api";

type Key = ProofCriterion["key"];

/** What each limit is of, its unit, and what it says. */
export const CRITERIA: Record<Key, [name: string, unit: string, help: string]> = {
  paper: ["Paper", "ΔE00", "The paper patch: the press's paper as the proofer shows it."],
  mean: ["All patches, mean", "ΔE00", "The mean over every patch of the strip."],
  p95: ["All patches, 95 % below", "ΔE00", "What all but one in twenty patches keep."],
  most: ["All patches, greatest", "ΔE00", "The patch that misses most."],
  solids: ["Solids, greatest", "ΔE00", "Single inks at 100 %."],
  solid_hue: [
    "Solids, greatest hue",
    "ΔH*ab",
    "The turn of hue of the chromatic solids alone (CIE 15), without lightness and chroma.",
  ],
  greys: [
    "Greys, mean chroma",
    "ΔCh",
    "How far the grey patches lie from their aims in a* and b* alone.",
  ],
};

export const LIMITS = Object.keys(CRITERIA) as Key[];

export const verdict = (passes: boolean | null) =>
  passes === null ? "not judged" : passes ? "passes" : "fails";
