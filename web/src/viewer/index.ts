export { ComparisonViewer } from "./ComparisonViewer";
export { DEFAULT_LOOK, type Look, MAPS } from "./look";
export { ReadoutStrip } from "./ReadoutStrip";
export { usePointer, type Pointer } from "./usePointer";
export { viewUrl } from "./viewUrl";
