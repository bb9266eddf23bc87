import { Box, InputBase, Typography } from "@mui/material";
import { useState } from "react";

import type { MediumSettings } from "../api";
import { Explained } from "../ui";

interface Props {
  settings: MediumSettings;
  onChange: (part: Partial<MediumSettings>) => void;
}

const PARTS = [
  ["roll_width", "Width of the roll in millimetres", "mm wide,", 58],
  ["roll_length", "Length of a full roll in metres", "m long, for", 46],
  ["roll_price", "Price of a full roll", "", 58],
] as const;

/** The roll in one line, read as a sentence: so wide, so long, for so much. */
export function RollLine({ settings, onChange }: Props) {
  const [typed, setTyped] = useState<Partial<Record<(typeof PARTS)[number][0], string>>>({});
  const rest = (key: (typeof PARTS)[number][0]) => {
    const text = typed[key];
    setTyped({ ...typed, [key]: undefined });
    if (text === undefined) return;
    const value = Number(text.replace(",", "."));
    if (text.trim() === "") onChange({ [key]: null });
    else if (Number.isFinite(value) && (value > 0 || key === "roll_price"))
      onChange({ [key]: value });
  };
  return (
    <Box
      role="group"
      aria-label="Roll"
      sx={{ display: "flex", alignItems: "center", minHeight: 32, gap: 0.6 }}
    >
      <Typography sx={{ flex: 1 }}>
        <Explained
          of="media_price"
          text="Empty for sheets. Width, length and price of a full roll give the price of a square metre."
        >
          Roll
        </Explained>
      </Typography>
      {PARTS.map(([key, label, after, width]) => (
        <Box key={key} sx={{ display: "contents" }}>
          <InputBase
            value={typed[key] ?? settings[key] ?? ""}
            placeholder="–"
            inputMode="decimal"
            inputProps={{ "aria-label": label }}
            onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
            onBlur={() => rest(key)}
            onKeyDown={(e) => {
              if (e.key === "Enter") rest(key);
            }}
            sx={{
              width,
              fontSize: 13,
              border: 1,
              borderColor: "text.secondary",
              bgcolor: "background.paper",
              "& input": { px: 0.6, py: 0.25, textAlign: "right" },
            }}
          />
          <Typography variant="body2">{after || settings.currency}</Typography>
        </Box>
      ))}
    </Box>
  );
}
