import { Choice, NumberField, Section } from "../../ui/controls";
import type { StageProps } from "../StageRail";

const TURNS = {
  "0": "Not turned",
  "90": "90° clockwise",
  "180": "180°",
  "270": "270° clockwise",
} as const;

/** Print size, resolution and turning. */
export function Sizing({ job, control }: StageProps) {
  const d = control.recipe.delivery;
  const { facts } = job.artwork;
  const set = (part: Partial<typeof d>) => control.commit({ delivery: part });
  const stated = facts.print_size_mm?.[0];
  const width = d.width_mm ?? stated;
  const ppi = width ? (facts.width / width) * 25.4 : null;
  const fact = width
    ? `${width.toFixed(0)} mm, ${(d.resolution ?? ppi ?? 0).toFixed(0)} ppi`
    : "no size";
  return (
    <Section title="Size and turning" fact={fact} open={!width}>
      <NumberField
        label="Width of the print"
        help="Empty: as the artwork states it. The height follows."
        value={d.width_mm}
        unit="mm"
        min={1}
        max={100_000}
        empty={stated ? stated.toFixed(1) : "not stated"}
        onRest={(width_mm) => set({ width_mm })}
      />
      <NumberField
        label="Resample to"
        help="Pixels per inch of the result, by a Lanczos filter with three lobes. Empty: the artwork's own pixels."
        value={d.resolution}
        unit="ppi"
        min={10}
        max={10_000}
        empty={ppi ? ppi.toFixed(0) : "own"}
        onRest={(resolution) => set({ resolution })}
      />
      <Choice
        label="Turn"
        value={String(d.turn) as keyof typeof TURNS}
        options={TURNS}
        onChange={(turn) => set({ turn: Number(turn) as typeof d.turn })}
      />
    </Section>
  );
}
