import type { Recipe } from "../api";
import { Sentence } from "../ui";
import { Choice, Dial, Section, Toggle } from "../ui/controls";
import type { StageProps } from "./StageRail";

type VividRule = NonNullable<Recipe["vivid"]>;

const SPACES: Record<VividRule["space"], string> = {
  stretch: "Chroma stretched evenly",
  oprgb: "Read as opRGB",
  p3: "Read as P3 D65",
  romm: "Read as ROMM RGB",
};

/** More vivid on purpose: the artwork's numbers read partly in a larger space. */
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
      title="More vivid on purpose"
      fact={vivid ? `${vivid.strength.toFixed(0)} %` : "off"}
      open={vivid !== null}
    >
      <Toggle
        label="Read it more vividly"
        checked={vivid !== null}
        onChange={(on) => control.commit({ vivid: on ? put({}) : null })}
        help="The artwork is taken as if it had been made in a larger or stretched space. It changes the press view and the delivery; greys stay."
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
            help="0 % leaves the artwork as it is; 100 % reads it wholly in the larger space, or stretches chroma by 60 %."
            onLive={(strength) => control.preview({ vivid: put({ strength }) })}
            onRest={(strength) => control.commit({ vivid: put({ strength }) })}
          />
          {facts && (
            <Sentence>
              With this, {facts.out_of_gamut.toFixed(1)} % of the picture is out of the gamut of{" "}
              {destination.condition.name}, {facts.too_vivid.toFixed(1)} % too vivid. What is out
              cannot become more vivid; it only loses its steps.
            </Sentence>
          )}
        </>
      )}
    </Section>
  );
}
