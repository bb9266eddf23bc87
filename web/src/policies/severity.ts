import type { CheckFinding } from "../api";

/** What follows from a finding, in words; a mended one is listed as done. */
export const SEVERITIES: Record<string, string> = {
  stop: "Stops it",
  warn: "Warning",
  mend: "Mended",
  report: "Noted",
};
const GRAVEST = Object.keys(SEVERITIES);

/** The gravest findings first, otherwise in the policy's order. */
export function sorted(findings: CheckFinding[]): CheckFinding[] {
  return [...findings].sort((a, b) => GRAVEST.indexOf(a.severity) - GRAVEST.indexOf(b.severity));
}

const FEW = 6;

/** The pages of a finding in words; "" for the whole document. */
export function pagesText(pages: number[]): string {
  if (pages.length === 0) return "";
  const named = pages.slice(0, FEW).join(", ");
  const more = pages.length > FEW ? ` and ${pages.length - FEW} more` : "";
  return `${pages.length === 1 ? "Page" : "Pages"} ${named}${more}.`;
}
