import { Box } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask } from "../api";
import { LeafPlot } from "../plots";
import { keys } from "../queries/keys";
import { Sentence } from "../ui";
import { Choice, Dial, Section } from "../ui/controls";
import {
  type Perceptual,
  PERCEPTUAL_CONTROLS,
  PERCEPTUAL_KINDS,
  PLAIN_PERCEPTUAL,
} from "../ui/perceptual";
import type { StageProps } from "./StageRail";

/** Hues by name, in OKLab degrees: those of the full colours of sRGB and what lies between. */
const LEAVES = {
  "29": "Reds",
  "62": "Oranges",
  "110": "Yellows",
  "142": "Greens",
  "195": "Cyans",
  "232": "Sky blues",
  "264": "Blues",
  "305": "Violets",
  "328": "Magentas",
} as const;

const MADE = { table: "By the profile’s table", ...PERCEPTUAL_KINDS } as const;

/** How colours that do not print are brought to some that do, to be chosen for perceptual and looked at for all. */
export function GamutMapping({ destination, control }: StageProps) {
  const { recipe } = control;
  const [hue, setHue] = useState<keyof typeof LEAVES>("142");
  const own = recipe.intent === "perceptual" ? recipe.perceptual : null;
  const put = (part: Partial<Perceptual>): Perceptual => ({
    ...PLAIN_PERCEPTUAL,
    ...recipe.perceptual,
    ...part,
  });
  const leaf = useQuery({
    queryKey: [...keys.leaf, destination.id, recipe.destination, control.colours, hue],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/destinations/{id}/leaf", {
          signal,
          params: {
            path: { id: destination.id },
            query: { hue: Number(hue), changes: control.colours },
          },
        }),
      ),
    placeholderData: keepPreviousData,
  });
  const { turned } = leaf.data ?? {};
  return (
    <Section title="Gamut mapping" fact={own ? own.kind : "by the profile"}>
      {recipe.intent === "perceptual" && (
        <Choice
          label="Perceptual is made"
          help="By the profile’s own table, as its maker decided; or here, in a kind of your choice, for any profile."
          value={recipe.perceptual?.kind ?? "table"}
          options={MADE}
          onChange={(kind) =>
            control.commit({ perceptual: kind === "table" ? null : put({ kind }) })
          }
        />
      )}
      {own &&
        PERCEPTUAL_CONTROLS.map(([key, label, unit, end, help]) => (
          <Dial
            key={key}
            label={label}
            help={help}
            unit={` ${unit}`}
            min={-end}
            max={end}
            step={end > 10 ? 1 : 0.5}
            value={own[key] ?? 0}
            onLive={(value) => control.preview({ perceptual: put({ [key]: value }) })}
            onRest={(value) => control.commit({ perceptual: put({ [key]: value }) })}
          />
        ))}
      <Choice
        label="Lightness against chroma of"
        help="A leaf of one hue. What lies outside the line drawn out does not print; where it goes decides how vivid and how light it looks."
        value={hue}
        options={LEAVES}
        onChange={setHue}
      />
      {leaf.isError && <Sentence>{leaf.error.message}</Sentence>}
      {leaf.data && (
        <Box aria-busy={leaf.isPlaceholderData} sx={{ mt: 0.5 }}>
          <LeafPlot leaf={leaf.data} label={`Lightness and chroma, ${LEAVES[hue].toLowerCase()}`} />
          <Sentence>
            Dashed: the artwork’s space. Drawn out: what {destination.condition.name} prints. Each
            line leads from a colour of the artwork to its print.
            {turned != null &&
              ` Vivid ones turn by ${turned.toFixed(1)} degrees of hue in the mean.`}
          </Sentence>
        </Box>
      )}
    </Section>
  );
}
