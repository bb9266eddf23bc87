import { Box, Button, ButtonBase, Switch, Typography } from "@mui/material";
import { useState } from "react";

import { type Correction, DEFAULTS } from "../../api";
import { Sentence } from "../../ui";
import { Section } from "../../ui/controls";
import type { StageProps } from "../StageRail";
import { CorrectionEditor } from "./CorrectionEditor";
import { effectOf, placeOf, PLAIN } from "./words";

/** Corrections of the artwork made while looking through the print: a list, one of them open. */
export function Corrections(props: StageProps) {
  const { control, chosen, onChosen } = props;
  const { corrections } = control.recipe;
  const [adding, setAdding] = useState(false);
  const save = (next: Correction[]) => control.commit({ corrections: next });
  const live = (next: Correction[]) => control.preview({ corrections: next });
  // A colour picked in the picture arrives later: it is laid over what the corrections are by then.
  const put = (index: number, part: Partial<Correction>) =>
    control.now().corrections.map((c, i) => (i === index ? { ...c, ...part } : c));
  const add = () => {
    save([...corrections, { ...PLAIN }]);
    onChosen(corrections.length);
    setAdding(true);
  };
  const open = chosen === null ? undefined : corrections[chosen];
  return (
    <Section
      title="Corrections"
      fact={
        corrections.length
          ? `${corrections.filter((c) => c.on).length} of ${corrections.length} on`
          : "none"
      }
      open={corrections.length > 0 || adding}
    >
      {corrections.length > 0 && control.recipe.version < 3 && (
        <Box sx={{ mb: 1 }}>
          <Sentence>
            These corrections are from a former release and work as they did then, to the byte.
            Corrected as now, colours keep their hue and saturation when lightness or chroma
            changes.
          </Sentence>
          <Button onClick={() => control.commit({ version: DEFAULTS.Recipe.version })}>
            Correct as now
          </Button>
        </Box>
      )}
      <Box component="ul" aria-label="Corrections" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {corrections.map((c, i) => (
          <Box
            component="li"
            key={`${i}-${corrections.length}`}
            sx={{
              border: 1,
              borderColor: i === chosen ? "text.primary" : "divider",
              mb: "-1px",
              bgcolor: "background.paper",
              display: "flex",
              alignItems: "center",
              pr: 1,
            }}
          >
            <ButtonBase
              aria-expanded={i === chosen}
              onClick={() => onChosen(i === chosen ? null : i)}
              sx={{ flex: 1, minWidth: 0, display: "block", textAlign: "left", px: 1, py: 0.5 }}
            >
              <Typography noWrap sx={{ fontWeight: 650 }}>
                {c.name || `Correction ${i + 1}`}, {placeOf(c)}
              </Typography>
              <Typography variant="body2" color="text.secondary" noWrap>
                {effectOf(c)}
              </Typography>
            </ButtonBase>
            <Switch
              checked={c.on}
              onChange={(e) => save(put(i, { on: e.target.checked }))}
              slotProps={{ input: { "aria-label": `Correction ${i + 1} on` } }}
            />
          </Box>
        ))}
      </Box>
      <Button sx={{ mt: 1 }} disabled={corrections.length >= 24} onClick={add}>
        Add a correction
      </Button>
      {open && chosen !== null && (
        <CorrectionEditor
          {...props}
          correction={open}
          index={chosen}
          onLive={(part) => live(put(chosen, part))}
          onRest={(part) => save(put(chosen, part))}
          onRemove={() => {
            onChosen(null);
            save(corrections.filter((_, i) => i !== chosen));
          }}
        />
      )}
    </Section>
  );
}
