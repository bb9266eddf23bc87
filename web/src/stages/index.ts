export { InkStrip } from "./InkStrip";
export { IntentStrip } from "./IntentStrip";
export { Findings } from "./Findings";
export { pixelsOf } from "./corrections/words";
export { StageRail } from "./StageRail";
