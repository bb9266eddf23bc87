/**
 * Neutral greys around the artwork (ISO 3664); values are sRGB of the stated L*.
 * The bar over a picture is a shade apart: white on L* 50 alone stays under the contrast of 4.5 to 1 that text needs.
 */
export const SURROUNDS = {
  light: { label: "light", colour: "#e2e2e2", bar: "#e2e2e2", ink: "#1b1b1b" },
  mid: { label: "mid grey, L* 50", colour: "#777777", bar: "#696969", ink: "#ffffff" },
  dark: { label: "dark", colour: "#262626", bar: "#262626", ink: "#f0f0f0" },
} as const;

export type Surround = keyof typeof SURROUNDS;
