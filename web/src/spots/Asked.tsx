import { Box, Button, Typography } from "@mui/material";
import { useState } from "react";

import type { Condition, SwatchList } from "../api";
import { NewListDialog } from "../paths";
import {
  Choice,
  ColourInput,
  Form,
  NumberField,
  ownCondition,
  Pick,
  shelves,
  TextLine,
  Toggle,
  useDraft,
} from "../ui";
import { ofScreen, type SpotState } from "./useSought";

interface Props {
  state: SpotState;
  lists: SwatchList[];
  /** Those with inks. */
  conditions: Condition[];
  onChange: (change: Partial<SpotState>) => void;
}

const INKS = { 1: "one ink", 2: "two inks", 3: "three inks", 4: "four inks" } as const;
const WHITES = { absolute: "as measured", relative: "with the paper as white" } as const;

/** Which colours are sought, by which rules, and on which presses. */
export function Asked({ state, lists, conditions, onChange }: Props) {
  const [making, setMaking] = useState(false);
  const form = useDraft({ text: state.colour }, ({ text: typed }) => {
    const colour = typed.trim();
    if (colour) onChange({ list: null, colour, white: ofScreen(colour) ? "relative" : "absolute" });
  });
  const { text } = form.draft;
  const measured = lists.filter((l) => l.space === "Lab");
  return (
    <>
      <Box role="group" aria-label="Colours" sx={{ mb: 1.5 }}>
        <Typography variant="h2" sx={{ mb: 0.5 }}>
          Colours
        </Typography>
        <Pick
          field
          label="List of measured colours"
          value={String(state.list ?? "")}
          options={[
            ["", measured.length > 0 ? "Choose a list…" : "No list of measured colours yet"],
            ...measured.map((l): [string, string] => [String(l.id), `${l.name} (${l.count})`]),
          ]}
          onChange={(id) => {
            form.put({ text: "" });
            onChange({ list: id ? Number(id) : null, colour: "" });
          }}
        />
        <Button sx={{ mt: 1 }} onClick={() => setMaking(true)}>
          New list…
        </Button>
        <Form of={form} label="One colour">
          <TextLine
            label="Or try one colour"
            value={text}
            placeholder="50 −20 −35, rgb 0 128 200, #0080c8"
            onChange={(next) => form.put({ text: next })}
          />
          <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 1 }}>
            <Button type="submit" disabled={text.trim() === ""}>
              Try
            </Button>
            <Typography>or pick</Typography>
            <ColourInput
              label="Colour picked"
              value={/^#[0-9a-f]{6}$/i.test(text) ? text : "#808080"}
              onChange={(next) => form.put({ text: next })}
            />
          </Box>
        </Form>
      </Box>
      <Box role="group" aria-label="Builds" sx={{ mb: 1.5 }}>
        <Typography variant="h2">Builds</Typography>
        <Choice
          label="At most"
          value={String(state.inks) as `${keyof typeof INKS}`}
          options={INKS as unknown as Record<`${keyof typeof INKS}`, string>}
          onChange={(inks) => onChange({ inks: Number(inks) })}
        />
        <NumberField
          label="One ink more must bring"
          help="How much nearer the colour must come for another ink; 0 takes the nearest build whatever it needs."
          value={state.gain}
          unit="ΔE"
          min={0}
          max={20}
          step={0.1}
          onRest={(gain) => onChange({ gain: gain ?? 0.5 })}
        />
        <NumberField
          label="Faintest tint"
          help="Tones below it are not used. Empty: each condition’s own least dot."
          value={state.least}
          unit="%"
          min={0}
          max={50}
          empty="own"
          onRest={(least) => onChange({ least })}
        />
        <Choice
          label="Colours are taken"
          value={state.white}
          options={WHITES}
          onChange={(white) => onChange({ white })}
        />
        <NumberField
          label="Fine up to"
          help="Misses beyond it stand out in the table."
          value={state.fine}
          unit="ΔE00"
          min={0.1}
          max={50}
          step={0.1}
          onRest={(fine) => onChange({ fine: fine ?? 2 })}
        />
      </Box>
      <Box role="group" aria-label="Printing conditions">
        <Typography variant="h2">Printing conditions</Typography>
        {shelves(conditions, ownCondition).map(
          ([heading, rows]) =>
            rows.length > 0 && (
              <Box key={heading} role="group" aria-label={heading}>
                <Typography color="text.secondary">{heading}</Typography>
                {rows.map((c) => (
                  <Toggle
                    key={c.id}
                    label={c.name}
                    help={[c.printer, c.medium].filter(Boolean).join(", ")}
                    checked={!state.without.includes(c.id)}
                    onChange={(on) =>
                      onChange({
                        without: on
                          ? state.without.filter((id) => id !== c.id)
                          : [...state.without, c.id],
                      })
                    }
                  />
                ))}
              </Box>
            ),
        )}
      </Box>
      {making && (
        <NewListDialog
          onClose={() => setMaking(false)}
          onMade={(made) => {
            setMaking(false);
            if (made.space === "Lab") onChange({ list: made.id, colour: "" });
          }}
        />
      )}
    </>
  );
}
