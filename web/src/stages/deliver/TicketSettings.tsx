import { InputBase, Typography } from "@mui/material";
import { useState } from "react";

import { NumberField, Section, Toggle } from "../../ui/controls";
import type { StageProps } from "../StageRail";

/** What the operator must set besides the file. */
export function TicketSettings({ control }: StageProps) {
  const { ticket } = control.recipe.delivery;
  const [text, setText] = useState<{ media?: string; note?: string }>({});
  const set = (part: Partial<typeof ticket>) =>
    control.commit({ delivery: { ticket: { ...ticket, ...part } } });
  const field = (key: "media" | "note", label: string, most: number) => (
    <>
      <Typography component="label" htmlFor={`ticket-${key}`} sx={{ display: "block", mt: 0.5 }}>
        {label}
      </Typography>
      <InputBase
        id={`ticket-${key}`}
        fullWidth
        multiline={key === "note"}
        value={text[key] ?? ticket[key]}
        inputProps={{ maxLength: most }}
        onChange={(e) => setText({ ...text, [key]: e.target.value })}
        onBlur={() => {
          const value = text[key];
          if (value !== undefined && value !== ticket[key]) set({ [key]: value });
          setText({});
        }}
        sx={{
          fontSize: 13,
          border: 1,
          borderColor: "text.secondary",
          bgcolor: "background.paper",
          px: 0.75,
          py: 0.25,
          "& input": { p: 0 },
        }}
      />
    </>
  );
  return (
    <Section
      title="Print ticket"
      fact={`${ticket.passes} ${ticket.passes === 1 ? "pass" : "passes"}`}
    >
      <Typography variant="body2">
        Every delivery has a ticket for the operator; it always says that the driver's colour
        management is off.
      </Typography>
      {field("media", "Medium", 100)}
      <NumberField
        label="Passes"
        help="Print passes that the ink limits were found with."
        value={ticket.passes}
        unit=""
        min={1}
        max={64}
        onRest={(v) => v && set({ passes: Math.round(v) })}
      />
      <NumberField
        label="Drying"
        help="Before winding, transfer or the next side."
        value={ticket.drying_minutes}
        unit="min"
        min={0}
        max={10_000}
        onRest={(v) => v !== null && set({ drying_minutes: v })}
      />
      <NumberField
        label="Pause between passes"
        help="So that ink is not laid on wet ink."
        value={ticket.pause_minutes}
        unit="min"
        min={0}
        max={10_000}
        onRest={(v) => v !== null && set({ pause_minutes: v })}
      />
      <NumberField
        label="Platen gap"
        help="Empty: as it is."
        value={ticket.platen_gap}
        unit="mm"
        min={0}
        max={50}
        step={0.1}
        empty="as is"
        onRest={(platen_gap) => set({ platen_gap })}
      />
      <NumberField
        label="Heat"
        help="Of dryer, platen or transfer press; empty for off."
        value={ticket.heat}
        unit="°C"
        min={0}
        max={300}
        empty="off"
        onRest={(heat) => set({ heat })}
      />
      {field("note", "Note", 500)}
      <Toggle
        label="Test strip"
        checked={ticket.test_strip}
        onChange={(test_strip) => set({ test_strip })}
        help="Patches in bare inks on the ticket, with the Lab that each should print."
      />
    </Section>
  );
}
