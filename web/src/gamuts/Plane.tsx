import { Box } from "@mui/material";
import { type MouseEvent, type RefObject, useMemo } from "react";

import { labCodes, labColour } from "../plots/labColour";
import { DASHES, type Point } from "./outline";

export const SIZE = 400;
const PAD = 34;
const GRAIN = 80;
/** Units of the plot within which a click means a dot. */
const NEAR = 7;

export interface Dot {
  /** Among all the colours of its picture or list. */
  place: number;
  at: Point;
  lab: readonly number[];
  away: boolean;
  chosen: boolean;
}

interface Props {
  label: string;
  svg: RefObject<SVGSVGElement | null>;
  /** Least and greatest value to the right, and upwards. */
  across: [number, number];
  up: [number, number];
  axes: [string, string];
  outlines: Point[][];
  dots: Dot[];
  /** The colour at a place of the plane. */
  labAt: (x: number, y: number) => [number, number, number];
  marks: Point | null;
  onPoint: (lab: [number, number, number] | null) => void;
  /** A place was clicked, and the dot nearest to it where one is near. */
  onPick: (lab: [number, number, number], dot: Dot | null) => void;
}

const inside = (outline: Point[], x: number, y: number) => {
  let odd = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [xi, yi] = outline[i] ?? [0, 0];
    const [xj, yj] = outline[j] ?? [0, 0];
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) odd = !odd;
  }
  return odd;
};

/** The colours of a plane within any of the outlines, as a picture; null where nothing can be drawn. */
function painted(props: Pick<Props, "across" | "up" | "outlines" | "labAt">): string | null {
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = GRAIN;
  const context = canvas.getContext?.("2d");
  if (!context) return null;
  const picture = context.createImageData(GRAIN, GRAIN);
  const { across, up, outlines, labAt } = props;
  for (let row = 0; row < GRAIN; row++)
    for (let column = 0; column < GRAIN; column++) {
      const x = across[0] + ((column + 0.5) / GRAIN) * (across[1] - across[0]);
      const y = up[1] - ((row + 0.5) / GRAIN) * (up[1] - up[0]);
      if (!outlines.some((o) => inside(o, x, y))) continue;
      picture.data.set([...labCodes(labAt(x, y)), 255], 4 * (row * GRAIN + column));
    }
  context.putImageData(picture, 0, 0);
  return canvas.toDataURL();
}

/** A plane through colour space: outlines of bodies over the colours themselves, and dots of a picture. */
export function Plane({
  label,
  svg,
  across,
  up,
  axes,
  outlines,
  dots,
  labAt,
  marks,
  onPoint,
  onPick,
}: Props) {
  const px = (x: number) => PAD + ((x - across[0]) / (across[1] - across[0])) * (SIZE - 2 * PAD);
  const py = (y: number) => SIZE - PAD - ((y - up[0]) / (up[1] - up[0])) * (SIZE - 2 * PAD);
  const stamp = JSON.stringify([across, up, outlines]);
  // The stamp stands for all that decides the picture; labAt follows the outlines.
  const ground = useMemo(() => painted({ across, up, outlines, labAt }), [stamp]); // eslint-disable-line react-hooks/exhaustive-deps
  const place = (event: MouseEvent<SVGSVGElement>): [number, number, number] | null => {
    const box = event.currentTarget.getBoundingClientRect();
    const u = (((event.clientX - box.left) / box.width) * SIZE - PAD) / (SIZE - 2 * PAD);
    const v = (((event.clientY - box.top) / box.height) * SIZE - PAD) / (SIZE - 2 * PAD);
    if (u < 0 || u > 1 || v < 0 || v > 1) return null;
    return labAt(across[0] + u * (across[1] - across[0]), up[1] - v * (up[1] - up[0]));
  };
  const pick = (event: MouseEvent<SVGSVGElement>) => {
    const lab = place(event);
    if (!lab) return;
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [
      ((event.clientX - box.left) / box.width) * SIZE,
      ((event.clientY - box.top) / box.height) * SIZE,
    ];
    const near = dots
      .map((dot) => ({ dot, far: Math.hypot(px(dot.at[0]) - x, py(dot.at[1]) - y) }))
      .filter(({ far }) => far <= NEAR)
      .sort((p, q) => p.far - q.far);
    onPick(lab, near[0]?.dot ?? null);
  };
  const ticks = (range: [number, number]) => {
    const step = range[1] - range[0] > 160 ? 40 : 20;
    const first = Math.ceil(range[0] / step) * step;
    return Array.from(
      { length: Math.floor((range[1] - first) / step) + 1 },
      (_, i) => first + i * step,
    );
  };
  // Single colours of a list would be lost as the specks that a picture's many make.
  const few = dots.length <= 40;
  return (
    <Box
      component="svg"
      ref={svg}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      role="img"
      aria-label={label}
      onPointerMove={((e: MouseEvent<SVGSVGElement>) => onPoint(place(e))) as never}
      onClick={pick as never}
      onPointerLeave={() => onPoint(null)}
      sx={{ width: "100%", display: "block", color: "text.primary", cursor: "crosshair" }}
    >
      <rect x={PAD} y={PAD} width={SIZE - 2 * PAD} height={SIZE - 2 * PAD} fill="#c6c6c6" />
      {ground && (
        <image
          href={ground}
          x={PAD}
          y={PAD}
          width={SIZE - 2 * PAD}
          height={SIZE - 2 * PAD}
          opacity={0.75}
          preserveAspectRatio="none"
        />
      )}
      {ticks(across).map((v) => (
        <g key={v}>
          <line
            x1={px(v)}
            x2={px(v)}
            y1={PAD}
            y2={SIZE - PAD}
            stroke="#000"
            opacity={v ? 0.12 : 0.5}
          />
          <text x={px(v)} y={SIZE - PAD + 14} fontSize="11" textAnchor="middle" fill="currentColor">
            {Math.abs(v) === v ? v : `−${-v}`}
          </text>
        </g>
      ))}
      {ticks(up).map((v) => (
        <g key={v}>
          <line
            x1={PAD}
            x2={SIZE - PAD}
            y1={py(v)}
            y2={py(v)}
            stroke="#000"
            opacity={v ? 0.12 : 0.5}
          />
          <text x={PAD - 4} y={py(v) + 4} fontSize="11" textAnchor="end" fill="currentColor">
            {Math.abs(v) === v ? v : `−${-v}`}
          </text>
        </g>
      ))}
      <text x={SIZE - PAD} y={SIZE - PAD - 5} fontSize="11.5" textAnchor="end" fill="#000">
        {axes[0]}
      </text>
      <text x={PAD + 4} y={PAD - 8} fontSize="11.5" fill="currentColor">
        {axes[1]}
      </text>
      {outlines.map(
        (outline, i) =>
          outline.length > 0 && (
            <g key={i} fill="none" strokeLinejoin="round">
              <polygon
                points={points(outline, px, py)}
                stroke="#fff"
                strokeWidth={3.4}
                opacity={0.55}
              />
              <polygon
                data-body={i}
                points={points(outline, px, py)}
                stroke="#000"
                strokeWidth={1.7}
                strokeDasharray={DASHES[i]}
              />
            </g>
          ),
      )}
      {dots.map(({ place, at: [x, y], lab, away }) => (
        <circle
          key={place}
          cx={px(x)}
          cy={py(y)}
          r={few ? 5 : away ? 3.2 : 2}
          fill={labColour(lab)}
          stroke={away ? "#000" : few ? "#fff" : "none"}
          strokeWidth={1}
        />
      ))}
      {dots
        .filter((dot) => dot.chosen)
        .map(({ place, at: [x, y], lab }) => (
          <g key={place} data-chosen={place}>
            <circle cx={px(x)} cy={py(y)} r={8} fill={labColour(lab)} stroke="#000" />
            <circle cx={px(x)} cy={py(y)} r={9.5} fill="none" stroke="#fff" strokeWidth={2} />
            <circle cx={px(x)} cy={py(y)} r={11} fill="none" stroke="#000" />
          </g>
        ))}
      {marks && (
        <g stroke="#000" strokeWidth={1}>
          <line x1={px(marks[0]) - 8} x2={px(marks[0]) + 8} y1={py(marks[1])} y2={py(marks[1])} />
          <line x1={px(marks[0])} x2={px(marks[0])} y1={py(marks[1]) - 8} y2={py(marks[1]) + 8} />
        </g>
      )}
    </Box>
  );
}

const points = (outline: Point[], px: (v: number) => number, py: (v: number) => number) =>
  outline.map(([x, y]) => `${px(x).toFixed(1)},${py(y).toFixed(1)}`).join(" ");
