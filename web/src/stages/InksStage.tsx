import { Button, MenuItem, Select, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, ask, type InkRules } from "../api";
import { Explained, Sentence } from "../shell";
import { Dial, Toggle } from "./controls";
import { Plates } from "./Plates";
import type { StageProps } from "./StageRail";
import { METHOD_NAMES } from "./wording";

type Black = NonNullable<InkRules["black"]>;
const FIRST_BLACK: Black = { method: "gcr", strength: 50, start: 20, limit: 100, reach: 45 };

const METHOD_SENTENCES: Record<Black["method"], string> = {
  gcr: "Black takes over the grey part of the three colours. More of it saves ink and steadies greys; early black can look grainy.",
  ucr: "Black enters in near-neutral shadows only; colours keep their three inks.",
  none: "No black at all: the softest look, the most ink, and greys that follow every drift of the press.",
  maximum: "Black does all that it can alone, colours only what is left: least ink, hardest look.",
};

/** TAC and black generation; the picture is separated anew through the condition's own profile. */
export function InksStage({ destination, control, look, onLook, onMark }: StageProps) {
  const rules = control.recipe.ink_rules;
  const own = destination.condition.ink_rules;
  const stamp = JSON.stringify(destination.recipe);
  const figures = useQuery({
    queryKey: ["inks", destination.id, stamp],
    queryFn: () => ask(api.GET("/api/destinations/{id}/inks", { params: { path: { id: destination.id } } })),
    placeholderData: keepPreviousData,
  });
  const start = (): InkRules => ({
    name: "", tac: own.tac, limits: {}, black: { ...FIRST_BLACK, ...own.black }, protect: { pure_black: true, neutral_to_black: false },
  });
  const current = rules ?? start();
  const black = current.black ?? FIRST_BLACK;
  const withBlack = (part: Partial<Black>): InkRules => ({ ...current, black: { ...black, ...part } });
  const live = (next: InkRules) => control.preview({ ink_rules: next });
  const save = (next: InkRules | null) => control.commit({ ink_rules: next });
  const f = figures.data;
  return (
    <>
      <Plates names={Object.keys(figures.data?.coverage ?? {})} look={look} onLook={onLook} />
      <Toggle
        label="Own ink rules" checked={rules !== null} onChange={(on) => { onMark(null); save(on ? start() : null); }}
        help="Off: the inks as the condition's profile was built. On: every colour is separated again through the profile's own forward table, by the rules below."
      />
      {rules && (
        <>
          <Dial label="Total area coverage" unit=" %" min={120} max={400} value={current.tac} help={`The most ink in any spot. ${destination.condition.name} is set up for ${own.tac} %.`} onLive={(tac) => live({ ...current, tac })} onRest={(tac) => save({ ...current, tac })} />
          <Typography sx={{ mt: 0.5, mb: 0.25 }}>Black generation</Typography>
          <Select fullWidth value={black.method} inputProps={{ "aria-label": "Black generation" }} onChange={(e) => save(withBlack({ method: e.target.value as Black["method"] }))}>
            {Object.entries(METHOD_NAMES).map(([key, name]) => <MenuItem key={key} value={key}>{name}</MenuItem>)}
          </Select>
          {black.method === "gcr" && (
            <Dial label="Strength" unit=" %" min={0} max={100} value={black.strength} help="How much of the grey part black replaces in the lighter tones." onLive={(strength) => live(withBlack({ strength }))} onRest={(strength) => save(withBlack({ strength }))} />
          )}
          {(black.method === "gcr" || black.method === "ucr") && (
            <Dial label="Black start" unit=" %" min={0} max={90} value={black.start} help="Darkness at which black begins: 0 % is paper, 100 % the darkest grey." onLive={(v) => live(withBlack({ start: v }))} onRest={(v) => save(withBlack({ start: v }))} />
          )}
          {black.method !== "none" && (
            <Dial label="Black limit" unit=" %" min={0} max={100} value={black.limit} help="The highest tone value of the black plate." onLive={(limit) => live(withBlack({ limit }))} onRest={(limit) => save(withBlack({ limit }))} />
          )}
          <Sentence>{METHOD_SENTENCES[black.method]}</Sentence>
        </>
      )}
      {f && (
        <Typography sx={{ mt: 1 }} data-testid="tac-highest">
          <Explained text={f.exact ? "The largest sum of inks over every pixel of the picture." : "The largest sum of inks, on a reduced copy because the picture is very large."}>
            Highest TAC <b>{f.tac_max.toFixed(0)} %</b> of {f.tac_rule.toFixed(0)} %
          </Explained>
          <br />
          at x {f.tac_at[0]}, y {f.tac_at[1]}
        </Typography>
      )}
      {f && <Button sx={{ mt: 0.75 }} onClick={() => onMark([f.tac_at[0] ?? 0, f.tac_at[1] ?? 0])}>Show where</Button>}
    </>
  );
}
