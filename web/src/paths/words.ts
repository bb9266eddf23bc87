import type { Rows } from "../queries/paths";

export const FORMULAS: Record<Rows["formula"], string> = {
  "2000": "ΔE00 (CIEDE2000)",
  "1976": "ΔE*ab (1976)",
  "1994": "ΔE94 (1994)",
  CMC: "ΔE CMC 2:1",
  lightness: "ΔL*",
  chroma: "ΔC*",
  hue: "ΔH*",
};

export const SHORT: Record<Rows["formula"], string> = {
  "2000": "ΔE00",
  "1976": "ΔE*ab",
  "1994": "ΔE94",
  CMC: "ΔE CMC",
  lightness: "ΔL*",
  chroma: "ΔC*",
  hue: "ΔH*",
};

export const SORTS: Record<Rows["sort"], string> = {
  row: "as listed",
  name: "by name",
  difference: "by difference",
  lightness: "by lightness",
  chroma: "by chroma",
  hue: "by hue",
  total: "by total ink",
};

export const VIEWS = {
  paper: "every white as white",
  absolute: "with the medium’s white",
} as const;
