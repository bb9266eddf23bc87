import type { IntentFigures, Recipe } from "../api";
import { Sentence } from "../ui";
import { Choice, Dial, Section, Toggle } from "../ui/controls";
import type { StageProps } from "./StageRail";
import { SPACES } from "./vividSpaces";

type VividRule = NonNullable<Recipe["vivid"]>;

/** What the print gains by it, and that it gains nothing where the press is at its end. */
export function gained({
  vividness,
  vividness_plain: plain,
}: Pick<IntentFigures, "vividness" | "vividness_plain">): string {
  if (vividness == null || plain == null) return "No colour of the picture is vivid.";
  if (vividness - plain < 0.5)
    return "The print gains nothing by it: the press is at its end, and steps are lost.";
  return `The print keeps ${vividness.toFixed(0)} % of the vividness of the artwork as it came, ${(vividness - plain).toFixed(1)} % more than without.`;
}

/** The source widened: as vivid as if its numbers were read partly in a larger space. */
export function Vivid({ destination, control }: StageProps) {
  const { vivid } = control.recipe;
  const facts = destination.facts.intent;
  const put = (part: Partial<VividRule>): VividRule => ({
    space: "stretch",
    strength: 30,
    ...vivid,
    ...part,
  });
  return (
    <Section
      title="Widen the source"
      fact={vivid ? `${vivid.strength.toFixed(0)} %` : "off"}
      open={vivid !== null}
    >
      <Toggle
        label="Widened"
        checked={vivid !== null}
        onChange={(on) => control.commit({ vivid: on ? put({}) : null })}
        help="Colours get as vivid as if the artwork had been made in a larger space. Their lightness and hue stay, and greys do. It changes the press view and the delivery."
      />
      {vivid && (
        <>
          <Choice
            label="How"
            value={vivid.space}
            options={SPACES}
            onChange={(space) => control.commit({ vivid: put({ space }) })}
          />
          <Dial
            label="Strength"
            unit=" %"
            min={0}
            max={100}
            value={vivid.strength}
            help="0 % leaves the artwork as it is; 100 % goes as far as the larger space, or 60 % farther evenly."
            onLive={(strength) => control.preview({ vivid: put({ strength }) })}
            onRest={(strength) => control.commit({ vivid: put({ strength }) })}
          />
          {facts && (
            <Sentence>
              With this, {facts.out_of_gamut.toFixed(1)} % of the picture is out of the gamut of{" "}
              {destination.condition.name}, {facts.too_vivid.toFixed(1)} % too vivid.{" "}
              {gained(facts)}
            </Sentence>
          )}
        </>
      )}
    </Section>
  );
}
