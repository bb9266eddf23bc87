export { pixelsOf } from "./corrections/words";
export { Findings } from "./Findings";
export { InkStrip } from "./InkStrip";
export { IntentStrip } from "./IntentStrip";
export { StageRail } from "./StageRail";
