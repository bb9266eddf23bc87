export { InkBars } from "./InkBars";
export { NeutralPlot } from "./NeutralPlot";
export { INK_COLOURS, INK_DASHES, inkColour } from "./inks";
