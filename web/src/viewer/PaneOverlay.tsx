import { useTheme } from "@mui/material";

import { type Camera, type Size, toPane } from "./geometry";
import type { Overlay, Tool } from "./tools";

interface Props {
  overlay: Overlay;
  tool: Tool | null;
  drawn: [number, number][];
  camera: Camera;
  size: Size;
  /** It lies in a mirrored pane, where letters are turned back. */
  mirrored: boolean;
}

const READABLE = {
  transform: "scaleX(-1)",
  transformBox: "fill-box",
  transformOrigin: "center",
} as const;

/** Outlines and sample points over a picture: two thin lines, readable on any colour. */
export function PaneOverlay({ overlay, tool, drawn, camera, size, mirrored }: Props) {
  const { typography } = useTheme();
  const at = ([x, y]: [number, number]) => toPane(camera, size, x, y);
  const path = (corners: [number, number][], closed: boolean) =>
    corners
      .map(
        (c, i) =>
          `${i ? "L" : "M"}${at(c)
            .map((v) => v.toFixed(1))
            .join(" ")}`,
      )
      .join("") + (closed ? "Z" : "");
  const rectangle = (a: [number, number], b: [number, number]): [number, number][] => [
    a,
    [b[0], a[1]],
    b,
    [a[0], b[1]],
  ];
  const [a, b] = drawn;
  const drawing =
    tool?.kind === "rectangle" && a && b
      ? path(rectangle(a, b), true)
      : drawn.length > 1
        ? path(drawn, false)
        : "";
  const lines = (d: string, dashed: boolean) => (
    <>
      <path d={d} fill="none" stroke="#000" strokeWidth={2.5} />
      <path
        d={d}
        fill="none"
        stroke="#fff"
        strokeWidth={1}
        strokeDasharray={dashed ? "5 4" : undefined}
      />
    </>
  );
  return (
    <svg
      aria-hidden
      width={size.width}
      height={size.height}
      style={{ position: "absolute", inset: 0, pointerEvents: "none" }}
    >
      {overlay.outline && lines(path(overlay.outline.corners, true), true)}
      {drawing && lines(drawing, false)}
      {tool?.kind === "polygon" &&
        drawn.slice(0, -1).map((p) => {
          const [x, y] = at(p);
          return (
            <rect
              key={p.join()}
              x={x - 3}
              y={y - 3}
              width={6}
              height={6}
              fill="#fff"
              stroke="#000"
            />
          );
        })}
      {overlay.points.map((p) => {
        const [x, y] = at([p.x + 0.5, p.y + 0.5]);
        return (
          <g key={p.label} data-testid="sample-point">
            <rect
              x={x - 3.5}
              y={y - 3.5}
              width={7}
              height={7}
              fill="none"
              stroke="#000"
              strokeWidth={2.5}
            />
            <rect x={x - 3.5} y={y - 3.5} width={7} height={7} fill="none" stroke="#fff" />
            <text
              x={x + 7}
              y={y - 4}
              fontSize={11}
              fontFamily={typography.fontFamily}
              fontWeight={700}
              fill="#fff"
              stroke="#000"
              strokeWidth={2.5}
              paintOrder="stroke"
              style={mirrored ? READABLE : undefined}
            >
              {p.label}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
