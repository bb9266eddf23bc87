import { expect, it } from "vitest";

import type { Fit } from "../api";
import { fitName, fitReasons } from "./fit";

const fit = (part: Partial<Fit>): Fit => ({
  intent: "perceptual",
  bpc: true,
  out_of_gamut: 1,
  too_vivid: 1,
  too_dark: 0,
  too_light: 0,
  de00_mean: 3,
  de00_p95: 6,
  de00_max: 9,
  detail: 90,
  banding: 1,
  drift: 0.2,
  vividness: 84,
  tones_lost: { K: 0, paper: 0 },
  advised: false,
  ...part,
});

it("names intent and BPC, which absolute has none of", () => {
  expect(fitName(fit({}))).toBe("Perceptual, BPC");
  expect(fitName(fit({ bpc: false, intent: "relative" }))).toBe("Relative colorimetric, no BPC");
  expect(fitName(fit({ intent: "absolute", bpc: false }))).toBe("Absolute colorimetric");
});

it("gives the reasons that matter against the present choice", () => {
  const said = fitReasons(
    fit({ advised: true }),
    fit({ de00_mean: 4.5, detail: 80, banding: 1.1, drift: 0.2 }),
  );
  expect(said).toContain("1.5 ΔE00 nearer");
  expect(said).toContain("10 % more detail");
  expect(said).not.toContain("gradients,");
});

it("names the plate that loses tones", () => {
  const best = fit({ advised: true, tones_lost: { C: 0.2, K: 2.4, paper: 0 } });
  expect(fitReasons(best, best)).toContain("2.4 % of the tones lost where K is solid");
});

it("says so when the difference is small, and stays silent about itself", () => {
  const best = fit({ advised: true });
  expect(fitReasons(best, fit({ de00_mean: 3.1 }))).toContain("nearly as good");
  expect(fitReasons(best, best)).toBe(
    "1 % too vivid; mean 3.0 ΔE00, 90 % of the detail, 1.0 % of the gradients flattened, 84 % of the vividness.",
  );
});

it("says what the advice loses beside what it gains", () => {
  const said = fitReasons(
    fit({ advised: true, banding: 3, vividness: 80 }),
    fit({ de00_mean: 4.5, vividness: 91 }),
  );
  expect(said).toContain("1.5 ΔE00 nearer");
  expect(said).toContain("it loses 2.0 % more flattened gradients, 11 % less of the vividness");
});

it("has no vividness to speak of where nothing is vivid", () => {
  const best = fit({ advised: true, vividness: null });
  expect(fitReasons(best, best)).not.toContain("vividness");
});
