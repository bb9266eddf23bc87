export { useAppearance } from "./appearance";
export { PlintoTheme } from "./PlintoTheme";
export { type Surround, SURROUNDS } from "./surrounds";
