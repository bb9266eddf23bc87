import { Explained, Pick, Sentence } from "../ui";
import { Choice, Toggle } from "../ui/controls";
import { INTENT_SENTENCES } from "../ui/wording";
import { type Look, MAPS, PLAYS } from "../viewer";
import { Corrections } from "./corrections/Corrections";
import { FitAdvice } from "./FitAdvice";
import { GamutMapping } from "./GamutMapping";
import { OutOfGamut } from "./OutOfGamut";
import { Points } from "./Points";
import { Screen } from "./Screen";
import { SentAsIs } from "./SentAsIs";
import type { StageProps } from "./StageRail";

/** How the print is simulated, what is marked in it, and what is corrected while looking. */
export function PressViewStage(props: StageProps) {
  const { job, destination, control, look, onLook } = props;
  const { recipe } = control;
  const facts = destination.facts.intent;
  const absolute = recipe.intent === "absolute";
  return (
    <>
      <Toggle
        label="Black point compensation"
        disabled={absolute || recipe.link !== null}
        checked={recipe.bpc && !absolute}
        onChange={(bpc) => control.commit({ bpc })}
        help="Lays the artwork's black on the darkest the print can reach, so that shadows keep their steps (ISO 18619). It has no part in absolute colorimetric."
      />
      <Choice
        label="What the screen plays"
        value={look.plays}
        options={PLAYS}
        onChange={(plays) => onLook({ ...look, plays })}
        help="Of the print, in this soft proof: its colours between the screen's own white and black; also how weak its darkest black is; also the colour of its paper. For the eye only; the recipe stays."
      />
      <Toggle
        label="Out-of-gamut veil"
        checked={look.veilOn}
        onChange={(veilOn) => onLook({ ...look, veilOn })}
        help="Marks colours that are too vivid, too dark or too light for the condition by more than 2 ΔE00, whatever black point compensation makes of them: by fine hatching, through which the picture stays visible, or covered with a colour."
      />
      <Pick<string>
        field
        label="What the panes show"
        value={look.map === "correction" ? "" : look.map}
        options={MAPS}
        onChange={(map) => onLook({ ...look, map: map as Look["map"] })}
        sx={{ mt: 0.5 }}
      />
      <Sentence>
        {INTENT_SENTENCES[recipe.intent]}
        {facts && (
          <>
            {" "}
            The print on {destination.condition.name} differs by{" "}
            <Explained of="de00_mean">{facts.de00_mean.toFixed(1)} ΔE00</Explained> on average and
            keeps <Explained of="detail">{facts.detail.toFixed(0)} %</Explained> of the detail.
          </>
        )}
      </Sentence>
      <OutOfGamut figures={facts} look={look} onLook={onLook} />
      <SentAsIs {...props} />
      {recipe.link === null && (
        <FitAdvice job={job} destination={destination} control={control} look={look} />
      )}
      {recipe.link === null && <GamutMapping {...props} />}
      <Corrections {...props} />
      <Points {...props} />
      <Screen {...props} />
    </>
  );
}
