export { ComparisonViewer } from "./ComparisonViewer";
export { canSendAsIs } from "./layouts";
export { DEFAULT_LOOK, type Look, lookFrom, lookToKeep, MAPS, PLAYS } from "./look";
export { ReadoutStrip } from "./ReadoutStrip";
export { type Overlay, type Tool, ToolContext, type ToolKind, useTool } from "./tools";
export { type Pointer, usePointer } from "./usePointer";
export { viewUrl } from "./viewUrl";
