export { isStraight, STRAIGHT } from "./curve";
export { CurveEditor } from "./CurveEditor";
export { Histogram } from "./Histogram";
export { InkBars } from "./InkBars";
export { InkRampPlot } from "./InkRampPlot";
export { INK_COLOURS, INK_DASHES, inkColour } from "./inks";
