import type { BlackRule } from "../../api";
import { Sentence } from "../../ui";
import { Choice, Dial } from "../../ui/controls";
import { METHOD_NAMES } from "../../ui/wording";
import { METHOD_SENTENCES } from "./rules";

interface Props {
  black: BlackRule;
  onLive: (black: BlackRule) => void;
  onRest: (black: BlackRule) => void;
}

/** How black is made: the method and what belongs to it. */
export function BlackControls({ black, onLive, onRest }: Props) {
  const dial = (
    key: "strength" | "start" | "limit" | "reach",
    label: string,
    unit: string,
    min: number,
    max: number,
    help: string,
  ) => (
    <Dial
      label={label}
      unit={unit}
      min={min}
      max={max}
      value={black[key]}
      help={help}
      onLive={(v) => onLive({ ...black, [key]: v })}
      onRest={(v) => onRest({ ...black, [key]: v })}
    />
  );
  const { method } = black;
  return (
    <>
      <Choice
        label="What black does"
        value={method}
        options={METHOD_NAMES}
        onChange={(m) => onRest({ ...black, method: m })}
      />
      {method === "gcr" &&
        dial(
          "strength",
          "Strength",
          " %",
          0,
          100,
          "How much of the grey part black replaces in the lighter tones.",
        )}
      {(method === "gcr" || method === "ucr" || method === "neutral") &&
        dial(
          "start",
          "Black start",
          " %",
          0,
          90,
          "Darkness at which black begins: 0 % is paper, 100 % the darkest grey.",
        )}
      {method !== "none" &&
        dial("limit", "Black limit", " %", 0, 100, "The highest tone value of the black plate.")}
      {(method === "gcr" || method === "ucr") &&
        dial(
          "reach",
          "Reach",
          " C*",
          1,
          120,
          "How far from the greys black is used: the chroma at which it has faded to a third.",
        )}
      <Sentence>{METHOD_SENTENCES[method]}</Sentence>
    </>
  );
}
