import { InputBase, Typography } from "@mui/material";
import { useState } from "react";

import { Section } from "../../ui/controls";
import type { StageProps } from "../StageRail";

const FIELDS = ["artwork", "job", "condition", "intent", "tac", "bits", "ppi", "date", "number"];

/** The pattern of the delivered file's name, and the name it gives next. */
export function FileName({ control, next }: StageProps & { next: string }) {
  const kept = control.recipe.delivery.file_name;
  const [text, setText] = useState<string | null>(null);
  const rest = () => {
    if (text?.trim() && text !== kept) control.commit({ delivery: { file_name: text.trim() } });
    setText(null);
  };
  return (
    <Section title="File name" fact="">
      <InputBase
        fullWidth
        value={text ?? kept}
        inputProps={{ "aria-label": "File name pattern", maxLength: 120, spellCheck: false }}
        onChange={(e) => setText(e.target.value)}
        onBlur={rest}
        onKeyDown={(e) => {
          if (e.key === "Enter") rest();
        }}
        sx={{
          fontSize: 13,
          border: 1,
          borderColor: "text.secondary",
          bgcolor: "background.paper",
          "& input": { px: 0.75, py: 0.25 },
        }}
      />
      <Typography variant="body2" sx={{ mt: 0.5, overflowWrap: "anywhere" }}>
        Next: <b>{next}</b>
      </Typography>
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        Fields: {FIELDS.map((f) => `{${f}}`).join(" ")}
      </Typography>
    </Section>
  );
}
