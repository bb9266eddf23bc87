import {
  type ColourDuty,
  DEFAULTS,
  type Medium,
  type MediumChange,
  type MediumSettings,
} from "../api";
import type { Fact } from "../ui/controls";

export const MANAGERS: Record<ColourDuty["manager"], string> = {
  plinto: "Plinto",
  driver: "the driver",
  rip: "the RIP",
  none: "nobody, the file is final",
};
export const STATIONS: Record<ColourDuty["driver"], string> = {
  absent: "there is none",
  off: "off",
  on: "on",
  always: "on, cannot be switched off",
};

export const NEW_SETTINGS: MediumSettings = DEFAULTS.MediumSettings;

export const changeOf = (m: Medium): MediumChange => ({
  name: m.name,
  condition: m.condition,
  policy: m.policy ?? null,
  duty: m.duty,
  settings: m.settings,
});

/** What the operator sets, one fact a line. */
export function settingFacts(s: MediumSettings, price: number | null): Fact[] {
  const facts: Fact[] = [
    ["Media type", s.media_type || "as the printer names it"],
    [
      "Mirror",
      !s.mirror
        ? "no"
        : s.mirror_driver
          ? "yes, in the driver"
          : s.mirror_machine
            ? "yes, in the machine"
            : "yes, in the file",
    ],
    ["Passes", String(s.passes), "passes"],
    ["Drying", s.drying_minutes ? `${s.drying_minutes} min` : "none beyond the usual", "drying"],
    ["Platen gap", s.platen_gap === null ? "as it is" : `${s.platen_gap} mm`, "platen_gap"],
    ["Feed", s.feed ? `${s.feed > 0 ? "+" : "−"}${Math.abs(s.feed)} %` : "0 %", "feed"],
    ["Heat", s.heat === null ? "off" : `${s.heat} °C`, "heat"],
  ];
  if (s.ink_price !== null) facts.push(["Ink", `${s.ink_price} ${s.currency} a m²`, "cost"]);
  if (s.roll_width !== null)
    facts.push([
      "Roll",
      `${s.roll_width} mm wide${s.roll_length === null ? "" : `, ${s.roll_length} m long`}${s.roll_price === null ? "" : `, for ${s.roll_price} ${s.currency}`}`,
      "roll",
    ]);
  if (price !== null)
    facts.push(["Medium", `${price.toFixed(2)} ${s.currency} a m²`, "media_price"]);
  return facts;
}
