/** Neutral greys around the artwork (ISO 3664); values are sRGB of the stated L*. */
export const SURROUNDS = {
  light: { label: "light", colour: "#e2e2e2", ink: "#1b1b1b" },
  mid: { label: "mid grey, L* 50", colour: "#777777", ink: "#ffffff" },
  dark: { label: "dark", colour: "#262626", ink: "#f0f0f0" },
} as const;

export type Surround = keyof typeof SURROUNDS;
