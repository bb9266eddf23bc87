import { useEffect } from "react";

import { type Figure, type Meaning, MEANINGS } from "./meanings";

interface Props {
  of?: Figure;
  text?: string;
  /** Called when the text stands, so that its place can be found by its size. */
  onShown?: () => void;
}

/** The explanation of a figure: its name and unit, what it is, why it matters. */
export function MeaningText({ of, text, onShown }: Props) {
  useEffect(() => onShown?.(), [onShown]);
  const meaning: Meaning | undefined = of && MEANINGS[of];
  if (!meaning) return <>{text}</>;
  return (
    <>
      <b>
        {meaning.label}
        {meaning.unit ? `, ${meaning.unit}` : ""}.
      </b>{" "}
      {text ?? meaning.text}
      {meaning.why && <> {meaning.why}</>}
    </>
  );
}
