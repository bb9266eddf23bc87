import type { Fit } from "../api";
import { INTENT_NAMES } from "../ui/wording";

/** An intent and its BPC in words. */
export function fitName(fit: Fit): string {
  const bpc = fit.intent === "absolute" ? "" : fit.bpc ? ", BPC" : ", no BPC";
  return INTENT_NAMES[fit.intent] + bpc;
}

/** Why the advised fit is advised, against the one in use, by the figures that differ most. */
export function fitReasons(advised: Fit, used: Fit | undefined): string {
  const out = [
    ["too vivid", advised.too_vivid],
    ["too dark", advised.too_dark],
    ["too light", advised.too_light],
  ] as const;
  const lost = out
    .filter(([, share]) => share >= 0.5)
    .map(([way, share]) => `${share.toFixed(0)} % ${way}`)
    .join(", ");
  const [plate, most] = Object.entries(advised.tones_lost).reduce(
    (best, next) => (next[1] > best[1] ? next : best),
    ["", 0],
  );
  const solid =
    most >= 0.5
      ? `, ${most.toFixed(1)} % of the tones lost ${plate === "paper" ? "on bare paper" : `where ${plate} is solid`}`
      : "";
  const own = `${lost ? `${lost}; ` : ""}mean ${advised.de00_mean.toFixed(1)} ΔE00, ${advised.detail.toFixed(0)} % of the detail, ${advised.banding.toFixed(1)} % of the gradients flattened${solid}`;
  if (!used || used === advised) return `${own}.`;
  const gains: string[] = [];
  if (used.de00_mean - advised.de00_mean >= 0.3)
    gains.push(`${(used.de00_mean - advised.de00_mean).toFixed(1)} ΔE00 nearer on average`);
  if (advised.detail - used.detail >= 2)
    gains.push(`${(advised.detail - used.detail).toFixed(0)} % more detail`);
  if (used.banding - advised.banding >= 0.5)
    gains.push(`${(used.banding - advised.banding).toFixed(1)} % fewer flattened gradients`);
  if (used.drift - advised.drift >= 0.3)
    gains.push(`greys ${(used.drift - advised.drift).toFixed(1)} nearer to neutral`);
  return gains.length
    ? `${own}; against the present choice ${gains.join(", ")}.`
    : `${own}; the present choice is nearly as good.`;
}
