import { Box, Button, ButtonBase, Typography } from "@mui/material";
import { useState } from "react";

import type { HueBand } from "../../api";
import { Dial } from "../../ui/controls";
import type { EditorProps } from "./CorrectionEditor";
import { hueColour, hueName, HUES } from "./hueNames";

/** Changes of single hues: turn, chroma and lightness around a CIELAB hue angle. */
export function Hues({ correction, onLive, onRest }: EditorProps) {
  const [open, setOpen] = useState<number | null>(null);
  const put = (index: number, part: Partial<HueBand>) => ({
    hues: correction.hues.map((h, i) => (i === index ? { ...h, ...part } : h)),
  });
  const band = open === null ? undefined : correction.hues[open];
  const dial = (
    key: keyof HueBand,
    label: string,
    unit: string,
    min: number,
    max: number,
    help: string,
  ) =>
    band &&
    open !== null && (
      <Dial
        label={label}
        unit={unit}
        min={min}
        max={max}
        value={band[key]}
        help={help}
        onLive={(v) => onLive(put(open, { [key]: v }))}
        onRest={(v) => onRest(put(open, { [key]: v }))}
      />
    );
  const add = (hue: number) => {
    onRest({ hues: [...correction.hues, { hue, width: 40, shift: 0, chroma: 0, lightness: 0 }] });
    setOpen(correction.hues.length);
  };
  return (
    <Box role="group" aria-label="Single hues" sx={{ mt: 1 }}>
      <Typography>Single hues</Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", mt: 0.25 }}>
        {HUES.map(({ hue, name }) => {
          const index = correction.hues.findIndex((h) => hueName(h.hue) === name);
          return (
            <ButtonBase
              key={name}
              aria-pressed={index >= 0 && index === open}
              disabled={index < 0 && correction.hues.length >= 8}
              onClick={() => (index < 0 ? add(hue) : setOpen(index === open ? null : index))}
              sx={{
                height: 26,
                px: 0.75,
                gap: 0.5,
                fontSize: 12,
                fontWeight: index >= 0 ? 700 : 500,
                border: 1,
                borderColor: "text.secondary",
                mr: "-1px",
                mb: "-1px",
                ...(index >= 0 &&
                  index === open && { bgcolor: "text.primary", color: "background.paper" }),
              }}
            >
              <Box aria-hidden sx={{ width: 9, height: 9, bgcolor: hueColour(hue) }} />
              {name}
            </ButtonBase>
          );
        })}
      </Box>
      {band && open !== null && (
        <Box sx={{ pl: 1, mt: 0.5, borderLeft: 1, borderColor: "divider" }}>
          {dial("hue", "Hue angle", "°", 0, 360, "CIELAB hue at which the change is strongest.")}
          {dial(
            "width",
            "Width",
            "°",
            10,
            120,
            "Degrees to either side at which the change has faded out.",
          )}
          {dial("shift", "Turn", "°", -45, 45, "Turns these hues towards their neighbours.")}
          {dial("chroma", "Chroma", " %", -100, 100, "More or less colourful.")}
          {dial("lightness", "Lightness", "", -50, 50, "Lighter or darker.")}
          <Button
            sx={{ mt: 0.5 }}
            onClick={() => {
              setOpen(null);
              onRest({ hues: correction.hues.filter((_, i) => i !== open) });
            }}
          >
            Remove this hue
          </Button>
        </Box>
      )}
    </Box>
  );
}
