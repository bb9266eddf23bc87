export { InkStrip } from "./InkStrip";
export { IntentStrip } from "./IntentStrip";
export { StageRail } from "./StageRail";
