export { isStraight, STRAIGHT } from "./curve";
export { CurveEditor } from "./CurveEditor";
export { Histogram } from "./Histogram";
export { InkBars } from "./InkBars";
export { InkRampPlot } from "./InkRampPlot";
export { InkContext, shortInk, useInks } from "./inks";
export { LeafPlot } from "./LeafPlot";
