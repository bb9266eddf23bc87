import { Box } from "@mui/material";

import type { InkFigures } from "../../api";
import { Sentence } from "../../ui";
import { type Fact, FactList, NumberField, Section } from "../../ui/controls";
import type { StageProps } from "../StageRail";

/** Ink in millilitres and cost, for a square metre and for the run. */
export function Use({ control, figures }: StageProps & { figures: InkFigures | undefined }) {
  const use = figures?.use;
  const money = (v: number) => `${v.toFixed(2)}\u00a0${use?.currency ?? ""}`;
  const ink = (by: Record<string, number>) => Object.values(by).reduce((a, b) => a + b, 0);
  const known = use !== undefined && Object.keys(use.millilitres).length > 0;
  return (
    <Section
      title="Ink use and cost"
      fact={known ? `${ink(use.millilitres).toFixed(1)} ml/m²` : ""}
      of="millilitres"
    >
      <NumberField
        label="Copies"
        help="How many prints the run has."
        value={control.recipe.delivery.copies}
        unit=""
        min={1}
        max={100_000_000}
        onRest={(copies) => copies && control.commit({ delivery: { copies: Math.round(copies) } })}
      />
      {use && (
        <Box data-testid="ink-use">
          <FactList
            facts={[
              ...Object.entries(use.millilitres).map(([n, v]): Fact => [
                `${n}, per m²`,
                `${v.toFixed(2)}\u00a0ml`,
                "millilitres",
              ]),
              ["Ink and medium, per m²", <b key="c">{money(use.cost_per_square_metre)}</b>, "cost"],
              [
                "One print",
                use.area === null ? "no size" : `${use.area.toFixed(3)}\u00a0m²`,
                "area",
              ],
              [
                "Ink for the run",
                use.run_millilitres ? `${ink(use.run_millilitres).toFixed(1)}\u00a0ml` : "no size",
                "run_millilitres",
              ],
              ["The run", use.run_cost === null ? "no size" : money(use.run_cost), "cost"],
            ]}
          />
        </Box>
      )}
      {use?.area === null && (
        <Sentence>
          The artwork states no print size. Set the width of the print in the stage Deliver.
        </Sentence>
      )}
    </Section>
  );
}
