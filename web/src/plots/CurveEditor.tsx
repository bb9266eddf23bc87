import { Box, useTheme } from "@mui/material";
import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";

import type { CurvePoints } from "../api";
import { addPoint, curveAt, movePoint, removePoint } from "./curve";

interface Props {
  label: string;
  points: CurvePoints;
  colour: string;
  /** What the two axes count: "%" or the artwork's numbers, both in percent. */
  unit?: string;
  onLive: (points: CurvePoints) => void;
  onRest: (points: CurvePoints) => void;
}

const SIDE = 236;
const PAD = { left: 30, bottom: 18, top: 5, right: 5 };
const W = SIDE - PAD.left - PAD.right;
const H = 168 - PAD.top - PAD.bottom;
const px = (x: number) => PAD.left + (x / 100) * W;
const py = (y: number) => PAD.top + (1 - y / 100) * H;

/** A tone curve with points to drag; click adds one, Delete removes it, arrow keys move it. */
export function CurveEditor({ label, points, colour, unit = "%", onLive, onRest }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const { palette } = useTheme();
  const [held, setHeld] = useState<number | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const place = (e: PointerEvent): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const k = SIDE / box.width;
    return [
      (((e.clientX - box.left) * k - PAD.left) / W) * 100,
      (1 - ((e.clientY - box.top) * k - PAD.top) / H) * 100,
    ];
  };
  const press = (e: PointerEvent<SVGSVGElement>) => {
    const [x, y] = place(e);
    const near = points.findIndex((p) => Math.hypot(px(p[0]) - px(x), py(p[1]) - py(y)) < 10);
    e.currentTarget.setPointerCapture(e.pointerId);
    if (near >= 0) {
      setHeld(near);
      setChosen(near);
      return;
    }
    const more = addPoint(points, x, y);
    if (more === points) return;
    const index = more.findIndex((p) => Math.abs(p[0] - x) < 0.06);
    setHeld(index);
    setChosen(index);
    onLive(more);
  };
  const move = (e: PointerEvent<SVGSVGElement>) => {
    if (held === null) return;
    const [x, y] = place(e);
    onLive(movePoint(points, held, x, y));
  };
  const release = () => {
    if (held !== null) onRest(points);
    setHeld(null);
  };
  const key = (e: KeyboardEvent, index: number) => {
    const step = e.shiftKey ? 5 : 0.5;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const by = moves[e.key];
    const point = points[index];
    if (by && point) {
      e.preventDefault();
      onRest(movePoint(points, index, point[0] + by[0], point[1] + by[1]));
    } else if (e.key === "Delete" || e.key === "Backspace") {
      e.preventDefault();
      onRest(removePoint(points, index));
    }
  };
  const line = Array.from(
    { length: 101 },
    (_, i) => `${px(i).toFixed(1)},${py(curveAt(points, i)).toFixed(1)}`,
  ).join(" ");
  const shown = chosen === null ? undefined : points[chosen];
  const ink = palette.text.primary;
  return (
    <Box sx={{ mt: 0.75 }}>
      <svg
        ref={svg}
        width="100%"
        viewBox={`0 0 ${SIDE} 168`}
        role="group"
        aria-label={label}
        style={{ touchAction: "none", cursor: "crosshair", display: "block" }}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={release}
        onPointerCancel={release}
      >
        <rect
          x={PAD.left}
          y={PAD.top}
          width={W}
          height={H}
          fill={palette.background.paper}
          stroke={palette.divider}
        />
        {[25, 50, 75].map((v) => (
          <g key={v} stroke={palette.divider}>
            <line x1={px(v)} x2={px(v)} y1={PAD.top} y2={PAD.top + H} />
            <line x1={PAD.left} x2={PAD.left + W} y1={py(v)} y2={py(v)} />
          </g>
        ))}
        <line
          x1={px(0)}
          y1={py(0)}
          x2={px(100)}
          y2={py(100)}
          stroke={palette.text.secondary}
          strokeDasharray="2 3"
        />
        {[0, 50, 100].map((v) => (
          <g key={v} fontSize={10} fill={palette.text.secondary}>
            <text x={PAD.left - 8} y={py(v) + (v === 100 ? 8 : v === 0 ? 0 : 3)} textAnchor="end">
              {v}
            </text>
            <text
              x={px(v)}
              y={PAD.top + H + 13}
              textAnchor={v === 100 ? "end" : v === 0 ? "start" : "middle"}
            >
              {v === 100 ? `100 ${unit}` : v}
            </text>
          </g>
        ))}
        <polyline points={line} fill="none" stroke={colour} strokeWidth={2} />
        {points.map((p, i) => (
          <rect
            key={p[0]}
            role="slider"
            tabIndex={0}
            aria-label={`Point ${i + 1} of ${label}`}
            aria-valuenow={p[1]}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuetext={`${p[0]} becomes ${p[1]}`}
            x={px(p[0]) - 4}
            y={py(p[1]) - 4}
            width={8}
            height={8}
            fill={i === chosen ? ink : palette.background.paper}
            stroke={ink}
            strokeWidth={1.5}
            onKeyDown={(e) => key(e, i)}
            onFocus={() => setChosen(i)}
          />
        ))}
      </svg>
      <Box sx={{ fontSize: 11.5, color: "text.secondary", minHeight: 16 }}>
        {shown
          ? `${shown[0]} ${unit} becomes ${shown[1]} ${unit}${points.length > 2 ? "; Delete removes the point" : ""}`
          : "Click to add a point, drag or use the arrow keys to move it."}
      </Box>
    </Box>
  );
}
