import type { BlackRule } from "../api";
import { BLACK_METHODS, BLACK_SETTINGS } from "./blackMethods";
import { Choice, Dial } from "./controls";
import { Sentence } from "./Sentence";

interface Props {
  black: BlackRule;
  onLive: (black: BlackRule) => void;
  onRest: (black: BlackRule) => void;
}

const NAMES = Object.fromEntries(
  Object.entries(BLACK_METHODS).map(([method, { name }]) => [method, name]),
) as Record<BlackRule["method"], string>;

/** How black is made: the method and what belongs to it. */
export function BlackControls({ black, onLive, onRest }: Props) {
  const { settings, sentence } = BLACK_METHODS[black.method];
  return (
    <>
      <Choice
        label="What black does"
        value={black.method}
        options={NAMES}
        onChange={(method) => onRest({ ...black, method })}
      />
      {settings.map((setting) => (
        <Dial
          key={setting}
          {...BLACK_SETTINGS[setting]}
          value={black[setting]}
          onLive={(v) => onLive({ ...black, [setting]: v })}
          onRest={(v) => onRest({ ...black, [setting]: v })}
        />
      ))}
      <Sentence>{sentence}</Sentence>
    </>
  );
}
