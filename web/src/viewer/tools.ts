import { createContext, useContext } from "react";

/** What a click or a drag in the picture is for, besides moving it. */
export type ToolKind = "rectangle" | "polygon" | "point" | "colour";

export interface Tool {
  kind: ToolKind;
  /** Called with the places in pixels of the picture; a rectangle gives two corners. */
  onDone: (places: [number, number][]) => void;
}

export const TOOL_WORDS: Record<ToolKind, string> = {
  rectangle: "Drag a rectangle in any picture. Escape stops.",
  polygon:
    "Click the corners in any picture; click the first one again, or press Enter, to close. Escape stops.",
  point: "Click where the sample point belongs. Escape stops.",
  colour: "Click a colour in any picture. Escape stops.",
};

/** A closed outline drawn over every pane, corners in pixels of the picture. */
export interface Outline {
  corners: [number, number][];
}

export interface Overlay {
  outline: Outline | null;
  points: { x: number; y: number; label: string }[];
}

export interface ToolControl {
  tool: Tool | null;
  start: (tool: Tool) => void;
  stop: () => void;
}

export const ToolContext = createContext<ToolControl>({
  tool: null,
  start: () => undefined,
  stop: () => undefined,
});

/** Start or stop a tool of the picture from any stage. */
export const useTool = () => useContext(ToolContext);
