import { labColour } from "../plots/labColour";

interface Props {
  aim: readonly number[];
  printed: readonly number[];
  /** Edge of each of the two fields, pixels. */
  size?: number;
}

/** The colour asked for and its print, edge to edge, so that the eye sees the step between them. */
export const Pair = ({ aim, printed, size = 26 }: Props) => (
  <span
    aria-hidden
    style={{
      display: "inline-flex",
      flexShrink: 0,
      border: "1px solid currentColor",
      height: size,
    }}
  >
    <span style={{ width: size, background: labColour(aim) }} />
    <span style={{ width: size, background: labColour(printed) }} />
  </span>
);
