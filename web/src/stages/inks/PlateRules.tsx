import { Box, Button, ButtonBase, Typography } from "@mui/material";
import { useState } from "react";

import { pairsOf, type PlateRule } from "../../api";
import { CurveEditor, isStraight, STRAIGHT, useInks } from "../../plots";
import { Dial, Section } from "../../ui/controls";
import type { StageProps } from "../StageRail";
import { without } from "../without";

const PLAIN: PlateRule = { curve: null, minimum: 0, cut: 0 };
const isPlain = (p: PlateRule) => isStraight(p.curve) && p.minimum === 0 && p.cut === 0;

/** What happens to single plates after the separation: a curve, a least dot, a clean cut. */
export function PlateRules({ control, names }: StageProps & { names: string[] }) {
  const look = useInks();
  const { plates } = control.recipe;
  const [open, setOpen] = useState(names.at(-1) ?? "K");
  const rule = plates[open] ?? PLAIN;
  const put = (part: Partial<PlateRule>) => {
    const next = { ...rule, ...part };
    if (next.cut > next.minimum) next.cut = next.minimum;
    const others = without(plates, open);
    return { plates: isPlain(next) ? others : { ...others, [open]: next } };
  };
  const changed = Object.keys(plates);
  return (
    <Section
      title="Plates after separation"
      fact={changed.length ? changed.join(", ") : "untouched"}
      open={changed.length > 0}
    >
      <Box
        role="group"
        aria-label="Plate to change"
        sx={{ display: "flex", flexWrap: "wrap", rowGap: "1px" }}
      >
        {names.map((n) => (
          <ButtonBase
            key={n}
            aria-pressed={n === open}
            onClick={() => setOpen(n)}
            sx={{
              height: 26,
              minWidth: 36,
              px: 0.75,
              gap: 0.5,
              fontSize: 12,
              fontWeight: plates[n] ? 750 : 500,
              border: 1,
              borderColor: "text.secondary",
              mr: "-1px",
              ...(n === open && { bgcolor: "text.primary", color: "background.paper" }),
            }}
          >
            <Box
              aria-hidden
              sx={{
                width: 8,
                height: 8,
                bgcolor: look.colour(n),
                outline: "1px solid",
                outlineColor: "divider",
              }}
            />
            {n}
          </ButtonBase>
        ))}
        <Box sx={{ flex: 1 }} />
        <Button disabled={!plates[open]} onClick={() => control.commit(put(PLAIN))}>
          Untouched
        </Button>
      </Box>
      <CurveEditor
        label={`Curve of plate ${open}`}
        points={pairsOf(rule.curve ?? STRAIGHT)}
        colour={open === "K" ? "currentColor" : look.colour(open)}
        onLive={(curve) => control.preview(put({ curve }))}
        onRest={(curve) =>
          control.commit(put({ curve: isStraight(curve) && curve.length === 2 ? null : curve }))
        }
      />
      <Dial
        label="Least dot"
        unit=" %"
        min={0}
        max={20}
        step={0.5}
        value={rule.minimum}
        help="Tone values below it print as this dot, so that none breaks off the plate."
        onLive={(minimum) => control.preview(put({ minimum }))}
        onRest={(minimum) => control.commit(put({ minimum }))}
      />
      {rule.minimum > 0 && (
        <Dial
          label="Cut below"
          unit=" %"
          min={0}
          max={rule.minimum}
          step={0.5}
          value={rule.cut}
          help="Tone values below this become clean paper instead."
          onLive={(cut) => control.preview(put({ cut }))}
          onRest={(cut) => control.commit(put({ cut }))}
        />
      )}
      <Typography variant="body2" color="text.secondary">
        Where a curve or dot lifts the total above the TAC, the colours give way.
      </Typography>
    </Section>
  );
}
