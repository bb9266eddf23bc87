import { NumberField } from "./controls";

/** What an operator sets, of a ticket or a medium; a pause only where it is kept. */
export interface OperatorNumbers {
  passes: number;
  drying_minutes: number;
  pause_minutes?: number;
  platen_gap: number | null;
  heat: number | null;
}

interface Props {
  numbers: OperatorNumbers;
  onChange: (part: Partial<OperatorNumbers>) => void;
}

/** Passes, drying, the pause between passes, platen gap and heat, the same on every form. */
export function TicketNumbers({ numbers, onChange }: Props) {
  const minutes = { unit: "min", min: 0, max: 10_000 };
  return (
    <>
      <NumberField
        label="Passes"
        help="Ink limits hold for this number."
        value={numbers.passes}
        unit=""
        min={1}
        max={64}
        onRest={(v) => v && onChange({ passes: Math.round(v) })}
      />
      <NumberField
        label="Drying"
        help="Before winding, transfer or the next side."
        value={numbers.drying_minutes}
        {...minutes}
        onRest={(v) => onChange({ drying_minutes: v ?? 0 })}
      />
      {numbers.pause_minutes !== undefined && (
        <NumberField
          label="Pause between passes"
          help="So that ink is not laid on wet ink."
          value={numbers.pause_minutes}
          {...minutes}
          onRest={(v) => onChange({ pause_minutes: v ?? 0 })}
        />
      )}
      <NumberField
        label="Platen gap"
        help="Empty: as it is."
        value={numbers.platen_gap}
        unit="mm"
        min={0}
        max={50}
        step={0.1}
        empty="as is"
        onRest={(platen_gap) => onChange({ platen_gap })}
      />
      <NumberField
        label="Heat"
        help="Of dryer, platen or transfer press; empty for off."
        value={numbers.heat}
        unit="°C"
        min={0}
        max={300}
        empty="off"
        onRest={(heat) => onChange({ heat })}
      />
    </>
  );
}
