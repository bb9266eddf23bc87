import { InputBase, Typography } from "@mui/material";
import { useState } from "react";

import { TicketNumbers } from "../../ui";
import { Section, Toggle } from "../../ui/controls";
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
      <TicketNumbers numbers={ticket} onChange={set} />
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
