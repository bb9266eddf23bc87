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
  const kept =
    advised.vividness == null ? "" : `, ${advised.vividness.toFixed(0)} % of the vividness`;
  const own = `${lost ? `${lost}; ` : ""}mean ${advised.de00_mean.toFixed(1)} ΔE00, ${advised.detail.toFixed(0)} % of the detail, ${advised.banding.toFixed(1)} % of the gradients flattened${kept}${solid}`;
  if (!used || used === advised) return `${own}.`;
  const gains: string[] = [];
  const losses: string[] = [];
  const side = (better: boolean) => (better ? gains : losses);
  const nearer = used.de00_mean - advised.de00_mean;
  if (Math.abs(nearer) >= 0.3)
    side(nearer > 0).push(
      `${Math.abs(nearer).toFixed(1)} ΔE00 ${nearer > 0 ? "nearer" : "farther"} on average`,
    );
  const detail = advised.detail - used.detail;
  if (Math.abs(detail) >= 2)
    side(detail > 0).push(
      `${Math.abs(detail).toFixed(0)} % ${detail > 0 ? "more" : "less"} detail`,
    );
  const flat = used.banding - advised.banding;
  if (Math.abs(flat) >= 0.5)
    side(flat > 0).push(
      `${Math.abs(flat).toFixed(1)} % ${flat > 0 ? "fewer" : "more"} flattened gradients`,
    );
  const vivid = (advised.vividness ?? 100) - (used.vividness ?? 100);
  if (Math.abs(vivid) >= 1)
    side(vivid > 0).push(
      `${Math.abs(vivid).toFixed(0)} % ${vivid > 0 ? "more" : "less"} of the vividness`,
    );
  const greys = used.drift - advised.drift;
  if (Math.abs(greys) >= 0.3)
    side(greys > 0).push(
      `greys ${Math.abs(greys).toFixed(1)} ${greys > 0 ? "nearer to" : "farther from"} neutral`,
    );
  const lose = losses.length ? `; it loses ${losses.join(", ")}` : "";
  return gains.length
    ? `${own}; against the present choice ${gains.join(", ")}${lose}.`
    : `${own}; the present choice is nearly as good${lose}.`;
}
