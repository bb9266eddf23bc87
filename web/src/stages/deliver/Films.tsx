import { Box } from "@mui/material";

import { DEFAULTS, type FilmRules } from "../../api";
import { Choice, NumberField, Section, Toggle } from "../../ui/controls";
import type { StageProps } from "../StageRail";

const FIRST: FilmRules = {
  ...DEFAULTS.FilmRules,
  angles: { C: 15, M: 75, Y: 0, K: 45 },
};
const SCREENINGS: Record<FilmRules["screening"], string> = {
  am: "AM, dots of growing size",
  fm: "FM, dots of one size",
};
const SHAPES: Record<FilmRules["shape"], string> = {
  round: "Round",
  ellipse: "Elliptical",
  square: "Square",
  line: "Line",
};

/** One-bit films in place of the picture, one for every plate. */
export function Films({ destination, control }: StageProps) {
  const d = control.recipe.delivery;
  const { films } = d;
  const set = (part: Partial<FilmRules>) =>
    control.commit({ delivery: { films: { ...FIRST, ...films, ...part } } });
  const wanted =
    destination.condition.process === "screen" || destination.condition.process === "flexo";
  const fact = films
    ? films.screening === "am"
      ? `${films.ruling} lines/inch`
      : `FM, ${films.dot} px`
    : "off";
  return (
    <Section title="Films" fact={fact} open={wanted || films !== null}>
      <Toggle
        label="One-bit films"
        checked={films !== null}
        help="A film for every plate with register marks and its name, for screens and flexo plates: TIFF in one ZIP, or the pages of a PDF."
        onChange={(on) =>
          control.commit({
            delivery: on
              ? { films: FIRST, format: d.format === "PDF" ? "PDF" : "TIFF" }
              : { films: null },
          })
        }
      />
      {films && (
        <>
          <Choice
            label="Screening"
            value={films.screening}
            options={SCREENINGS}
            onChange={(screening) => set({ screening })}
          />
          <NumberField
            label="Film resolution"
            help="Pixels per inch of the film."
            value={films.resolution}
            unit="ppi"
            min={72}
            max={5080}
            onRest={(v) => v && set({ resolution: v })}
          />
          {films.screening === "am" ? (
            <>
              <NumberField
                label="Ruling"
                help="Screen lines per inch."
                value={films.ruling}
                unit="lpi"
                min={10}
                max={300}
                onRest={(v) => v && set({ ruling: v })}
              />
              <Choice
                label="Dot shape"
                value={films.shape}
                options={SHAPES}
                onChange={(shape) => set({ shape })}
              />
              <Box role="group" aria-label="Screen angles">
                {(destination.condition.profile.inks?.channels ?? []).map(({ name: n, angle }) => (
                  <NumberField
                    key={n}
                    label={`Angle of ${n}`}
                    help="Degrees. Plates 30° apart show the least moiré; yellow may stand 15° away."
                    value={films.angles[n] ?? angle}
                    unit="°"
                    min={0}
                    max={180}
                    step={0.5}
                    onRest={(v) => v !== null && set({ angles: { ...films.angles, [n]: v } })}
                  />
                ))}
              </Box>
            </>
          ) : (
            <NumberField
              label="Spot"
              help="Size of the smallest dot in film pixels."
              value={films.dot}
              unit="px"
              min={1}
              max={16}
              onRest={(v) => v && set({ dot: Math.round(v) })}
            />
          )}
          <Toggle
            label="Marks and plate names"
            checked={films.marks}
            onChange={(marks) => set({ marks })}
            help="Register marks and the plate's name in a margin of 12 mm around the picture."
          />
        </>
      )}
    </Section>
  );
}
