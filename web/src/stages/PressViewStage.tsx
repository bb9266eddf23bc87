import { Box, MenuItem, Select } from "@mui/material";

import { Sentence } from "../shell";
import { type Look, MAPS } from "../viewer";
import { Toggle } from "./controls";
import { Corrections } from "./corrections/Corrections";
import { FitAdvice } from "./FitAdvice";
import { Points } from "./Points";
import { Screen } from "./Screen";
import type { StageProps } from "./StageRail";
import { INTENT_SENTENCES } from "./wording";

/** How the print is simulated, what is marked in it, and what is corrected while looking. */
export function PressViewStage(props: StageProps) {
  const { job, destination, control, look, onLook } = props;
  const { recipe } = control;
  const facts = destination.facts.intent;
  const absolute = recipe.intent === "absolute";
  return (
    <>
      <Toggle
        label="Black point compensation" disabled={absolute} checked={recipe.bpc && !absolute} onChange={(bpc) => control.commit({ bpc })}
        help="Lays the artwork's black on the darkest the print can reach, so that shadows keep their steps (ISO 18619). It has no part in absolute colorimetric."
      />
      <Toggle
        label="Show paper white" checked={look.paper} onChange={(paper) => onLook({ ...look, paper })}
        help="The screen shows the medium's own colour and lightness instead of its own white. For the eye only; the recipe stays."
      />
      <Toggle
        label="Show black ink" disabled={look.paper} checked={look.black || look.paper} onChange={(black) => onLook({ ...look, black })}
        help="The screen shows how weak the darkest print is, instead of its own black. Always on together with paper white."
      />
      <Toggle
        label="Out-of-gamut veil" checked={look.veilOn} onChange={(veilOn) => onLook({ ...look, veilOn })}
        help="Covers colours that relative colorimetric printing misses by more than 2 ΔE00."
      >
        <Box component="input" type="color" aria-label="Colour of the veil" value={look.veil} onChange={(e) => onLook({ ...look, veil: e.target.value })} sx={{ width: 26, height: 18, p: 0, border: 1, borderColor: "text.secondary", bgcolor: "transparent" }} />
      </Toggle>
      <Select fullWidth sx={{ mt: 0.5 }} value={look.map === "correction" ? "" : look.map} displayEmpty inputProps={{ "aria-label": "What the panes show" }} onChange={(e) => onLook({ ...look, map: e.target.value as Look["map"] })}>
        {Object.entries(MAPS).map(([key, name]) => <MenuItem key={key} value={key}>{name}</MenuItem>)}
      </Select>
      <Sentence>
        {INTENT_SENTENCES[recipe.intent]}
        {facts && ` Here ${facts.out_of_gamut.toFixed(1)} % of the picture lies outside what ${destination.condition.name} prints; the print differs by ${facts.de00_mean.toFixed(1)} ΔE00 on average and keeps ${facts.detail.toFixed(0)} % of the detail.`}
      </Sentence>
      <FitAdvice job={job} destination={destination} control={control} />
      <Corrections {...props} />
      <Points {...props} />
      <Screen {...props} />
    </>
  );
}
