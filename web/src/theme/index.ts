export { PlintoTheme } from "./PlintoTheme";
export { useAppearance } from "./appearance";
export { SURROUNDS, type Surround } from "./surrounds";
