interface Props {
  /** Values that have a line. */
  at: readonly number[];
  /** Where a value lies upwards, in units of the drawing. */
  y: (value: number) => number;
  /** Where the lines begin and end. */
  from: number;
  to: number;
  /** What stands before a line; nothing for "". */
  label?: (value: number) => string;
  opacity?: (value: number) => number;
}

/** Level lines through a plot with their values to the left. */
export function Rulers({ at, y, from, to, label = String, opacity = () => 0.2 }: Props) {
  return at.map((value) => (
    <g key={value}>
      <line
        x1={from}
        x2={to}
        y1={y(value)}
        y2={y(value)}
        stroke="currentColor"
        opacity={opacity(value)}
      />
      {label(value) && (
        <text x={from - 6} y={y(value) + 4} fontSize="11" textAnchor="end" fill="currentColor">
          {label(value)}
        </text>
      )}
    </g>
  ));
}
