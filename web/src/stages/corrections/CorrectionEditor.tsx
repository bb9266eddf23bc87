import { Box, Button, InputBase } from "@mui/material";
import { useState } from "react";

import type { Correction } from "../../api";
import { Sentence } from "../../ui";
import { Dial } from "../../ui/controls";
import type { StageProps } from "../StageRail";
import { Curves } from "./Curves";
import { Hues } from "./Hues";
import { Where } from "./Where";

export interface EditorProps extends StageProps {
  correction: Correction;
  index: number;
  onLive: (part: Partial<Correction>) => void;
  onRest: (part: Partial<Correction>) => void;
}

/** One correction: its name, where it acts, curves, lightness, chroma and hues. */
export function CorrectionEditor({ onRemove, ...props }: EditorProps & { onRemove: () => void }) {
  const { correction, index, onLive, onRest } = props;
  const [name, setName] = useState<string | null>(null);
  const dial = (key: "lightness" | "chroma", label: string, help: string) => (
    <Dial
      label={label}
      unit=""
      min={-100}
      max={100}
      value={correction[key]}
      help={help}
      onLive={(v) => onLive({ [key]: v })}
      onRest={(v) => onRest({ [key]: v })}
    />
  );
  return (
    <Box
      role="group"
      aria-label={`Correction ${index + 1}`}
      sx={{ mt: 1, pl: 1, borderLeft: 2, borderColor: "text.primary" }}
    >
      <Box sx={{ display: "flex", gap: 1 }}>
        <InputBase
          value={name ?? correction.name}
          placeholder={`Correction ${index + 1}`}
          inputProps={{ "aria-label": "Name of the correction", maxLength: 100 }}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => {
            if (name !== null) onRest({ name });
            setName(null);
          }}
          sx={{
            flex: 1,
            fontSize: 13,
            border: 1,
            borderColor: "divider",
            bgcolor: "background.paper",
            "& input": { px: 0.75, py: 0.25 },
          }}
        />
        <Button onClick={onRemove}>Remove</Button>
      </Box>
      <Where {...props} />
      {correction.black ? (
        <Sentence>
          This region's black is remade; see the stage Inks. The corrections below act there as
          well.
        </Sentence>
      ) : null}
      {dial(
        "lightness",
        "Lightness",
        "Lighter or darker middle tones; black and white stay. At +100, L* 50 becomes 71.",
      )}
      {dial(
        "chroma",
        "Chroma",
        "−100 is grey, +100 doubles it. Beyond the edge of the ink gamut more chroma does not help.",
      )}
      <Hues {...props} />
      <Curves {...props} />
    </Box>
  );
}
