import { Box, Button, Typography } from "@mui/material";

import { type BlackRule, DEFAULTS, type InkRules } from "../api";
import { Explained, labText, lostTones, Sentence } from "../ui";
import { BlackControls } from "../ui/BlackControls";
import { Choice, Dial, Section, Toggle } from "../ui/controls";
import { hasInks } from "../ui/wording";
import { Aids } from "./inks/Aids";
import { NamedRules } from "./inks/NamedRules";
import { PlateRules } from "./inks/PlateRules";
import { RegionBlack } from "./inks/RegionBlack";
import { FIRST_BLACK, firstRules } from "./inks/rules";
import { Use } from "./inks/Use";
import { useInkFigures, useInkLimits } from "./inks/useInkFigures";
import { LinkConversion } from "./LinkConversion";
import { Plates } from "./Plates";
import type { StageProps } from "./StageRail";
import { without } from "./without";

const NUMBERS = { keep: "Stay as they are", separate: "Are made anew" } as const;

/** TAC and black generation; the picture is separated anew through the condition's own profile. */
export function InksStage(props: StageProps) {
  const { destination, control, look, onLook, onMark } = props;
  const rules = control.recipe.ink_rules;
  const own = destination.condition.ink_rules;
  const figures = useInkFigures(destination);
  const limits = useInkLimits(destination, control);
  const current = rules ?? firstRules(destination);
  const black = current.black ?? FIRST_BLACK;
  const live = (next: InkRules) => control.preview({ ink_rules: next });
  const save = (next: InkRules | null) => control.commit({ ink_rules: next });
  const withBlack = (next: BlackRule): InkRules => ({ ...current, black: next });
  const withLimit = (name: string, value: number): InkRules => {
    const others = without(current.limits, name);
    return { ...current, limits: value >= 100 ? others : { ...others, [name]: value } };
  };
  const withProtection = (part: Partial<InkRules["protect"]>): InkRules => ({
    ...current,
    protect: { ...current.protect, ...part },
  });
  const f = figures.data;
  const l = limits.data;
  const names = Object.keys(f?.coverage ?? {});
  const separable = destination.condition.profile.inks !== null;
  if (!hasInks(destination.condition)) {
    return (
      <Sentence>
        {destination.condition.name} takes RGB and makes its own densities from it: there is no
        total ink to limit and no black to generate.
      </Sentence>
    );
  }
  const kept = destination.source.same_space ? control.recipe.numbers === "keep" : null;
  const limited = Object.entries(current.limits)
    .map(([n, v]) => `${n} ${v.toFixed(0)}`)
    .join(", ");
  const protections = Object.values(current.protect).filter(Boolean).length;
  return (
    <>
      <Plates names={names} look={look} onLook={onLook} />
      {rules && control.recipe.version === 1 && (
        <Box sx={{ my: 1 }}>
          <Sentence>
            This recipe is from a former release and makes its inks as it did then, to the byte.
            Made anew, black runs evenly and takes the share its strength says.
          </Sentence>
          <Button onClick={() => control.commit({ version: DEFAULTS.Recipe.version })}>
            Make the inks as now
          </Button>
        </Box>
      )}
      {(separable || control.recipe.link !== null) && <LinkConversion {...props} />}
      {kept !== null && !control.recipe.link && (
        <>
          <Choice
            label="The artwork's own numbers"
            value={control.recipe.numbers}
            options={NUMBERS}
            help="The artwork is in this condition's own space already: its numbers can go to the plates as they are, or inks can be made anew from its colours."
            onChange={(numbers) => control.commit({ numbers })}
          />
          <Sentence>
            {kept
              ? "Nothing is separated anew: tone values go out as they came. Own ink rules only bring what exceeds their TAC and limits within; corrections change inks as little as the colour allows."
              : "Every colour is separated again, so that tone values differ from the artwork's."}
          </Sentence>
        </>
      )}
      {separable && !control.recipe.link && (
        <Toggle
          label="Own ink rules"
          checked={rules !== null}
          onChange={(on) => {
            onMark(null);
            save(on ? firstRules(destination) : null);
          }}
          help="Off: the inks as the condition's profile was built. On: every colour is separated again through the profile's own forward table, by the rules below."
        />
      )}
      {rules && (
        <>
          <Dial
            label="Total area coverage"
            unit=" %"
            min={names.length > 2 ? 120 : 80}
            max={Math.max(200, Math.min(100 * names.length, 600))}
            value={current.tac}
            help={`The most ink in any spot. ${destination.condition.name} is set up for ${own.tac} %.`}
            onLive={(tac) => live({ ...current, tac })}
            onRest={(tac) => save({ ...current, tac })}
          />
          {!kept && (
            <BlackControls
              black={black}
              onLive={(b) => live(withBlack(b))}
              onRest={(b) => save(withBlack(b))}
            />
          )}
        </>
      )}
      {l?.darkest && l.darkest_grey && (
        <Typography data-testid="ink-limits" variant="body2">
          <Explained of="darkest_grey">
            Darkest grey L* <b>{labText(l.darkest_grey)}</b>
          </Explained>
          <br />
          <Explained of="darkest">
            Darkest colour <b>{labText(l.darkest)}</b>
          </Explained>
          <br />
          <Explained of="gamut_volume">
            Gamut <b>{((l.volume ?? 0) / 1000).toFixed(0)}</b> thousand,{" "}
            {(((l.volume ?? 0) / (l.whole_volume || 1)) * 100).toFixed(0)} % of the inks' own
          </Explained>
        </Typography>
      )}
      {f && (
        <Typography sx={{ mt: 1 }} data-testid="tac-highest">
          <Explained
            of="tac_max"
            text={
              f.exact
                ? "The largest sum of inks over every pixel of the picture."
                : "The largest sum of inks, on a reduced copy because the picture is very large."
            }
          >
            Highest TAC <b>{f.tac_max.toFixed(0)} %</b> of {f.tac_rule.toFixed(0)} %
          </Explained>
          <br />
          <Explained of="tac_place">
            at x {f.tac_at[0]}, y {f.tac_at[1]}
          </Explained>
        </Typography>
      )}
      {f && (
        <Typography variant="body2" data-testid="tones-lost" sx={{ mt: 0.5 }}>
          <Explained of="tones_lost">Tones lost</Explained> {lostTones(f.tones_lost)}
        </Typography>
      )}
      {f && (
        <Button sx={{ mt: 0.75 }} onClick={() => onMark([f.tac_at[0] ?? 0, f.tac_at[1] ?? 0])}>
          Show where
        </Button>
      )}
      {rules && (
        <>
          <Section title="Limits of single inks" fact={limited || "100 %"} of="inks">
            {names.map((n) => (
              <Dial
                key={n}
                label={n}
                unit=" %"
                min={0}
                max={100}
                value={current.limits[n] ?? 100}
                help={`The most that plate ${n} may print.`}
                onLive={(v) => live(withLimit(n, v))}
                onRest={(v) => save(withLimit(n, v))}
              />
            ))}
          </Section>
          <Section title="Protection of black" fact={protections ? `${protections} on` : "off"}>
            {current.black?.method === "none" && protections > 0 && (
              <Sentence>
                No black at all is chosen, and what is protected here still prints in black ink:
                protection wins. Switch it off for none.
              </Sentence>
            )}
            <Toggle
              label="Pure black stays"
              checked={current.protect.pure_black}
              onChange={(pure_black) => save(withProtection({ pure_black }))}
              help="Where the artwork is CMYK with black ink alone, every tone value of it stays, whatever the method and limits say."
            />
            <Toggle
              label="Black text in black ink"
              checked={current.protect.black_text}
              onChange={(black_text) => save(withProtection({ black_text }))}
              help="R, G and B all 0 print as solid black alone, exactly, whatever the method and limits say, so that fine text needs no register."
            />
            <Toggle
              label="Greys in black ink"
              checked={current.protect.neutral_to_black}
              onChange={(neutral_to_black) => save(withProtection({ neutral_to_black }))}
              help="Equal R, G and B print in black ink alone, the darkest as solid black, whatever the method and limits say. Colours close to grey approach it."
            />
          </Section>
          <NamedRules rules={current} onTake={save} />
        </>
      )}
      {names.length > 0 && <PlateRules {...props} names={names} />}
      {rules && <RegionBlack {...props} figures={f} />}
      <Use {...props} figures={f} />
      <Aids {...props} figures={f} />
    </>
  );
}
