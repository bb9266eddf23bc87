import { Box, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "../queries/keys";
import { coloursOf } from "../recipe";
import { Explained } from "../ui";
import { Toggle } from "../ui/controls";
import { canSendAsIs } from "../viewer";
import type { StageProps } from "./StageRail";

const shift = (value: number, less: string, more: string) =>
  `${Math.abs(value).toFixed(1)} ${value < 0 ? less : more}`;

/** For artwork in inks already: what the press would print if nobody converted, beside the press view. */
export function SentAsIs({ job, destination, control, look, onLook }: StageProps) {
  const possible = canSendAsIs(job, destination);
  const changes = coloursOf(control.recipe);
  const { data } = useQuery({
    queryKey: [...keys.unconverted, destination.id, destination.revision, changes],
    queryFn: () =>
      ask(
        api.GET("/api/destinations/{id}/unconverted", {
          params: { path: { id: destination.id }, query: { changes } },
        }),
      ),
    enabled: possible,
    placeholderData: keepPreviousData,
  });
  if (!possible) return null;
  const rule = control.recipe.ink_rules?.tac ?? destination.condition.ink_rules.tac;
  return (
    <Box
      component="section"
      aria-label="If nobody converted"
      sx={{ borderTop: 1, borderColor: "divider", pt: 1 }}
    >
      <Typography variant="h2">If nobody converted</Typography>
      {data?.sent && data.converted ? (
        <Typography variant="body2" sx={{ mt: 0.25 }}>
          The artwork's own numbers would print{" "}
          <Explained of="unconverted_de00">{data.sent.de00.mean.toFixed(1)} ΔE00</Explained> from
          the artwork on average ({data.sent.de00.p95.toFixed(1)} at 95 %),{" "}
          {shift(data.sent.lightness, "darker", "lighter")} and{" "}
          {shift(data.sent.chroma, "duller", "more colourful")}; converted it is{" "}
          <Explained of="de00_mean">{data.converted.mean.toFixed(1)}</Explained>.
          {destination.condition.profile.colour_space === "CMYK" && (
            <>
              {" "}
              They reach a total of{" "}
              <Explained of="unconverted_tac">{data.sent.tac_max.toFixed(0)} %</Explained>
              {data.sent.tac_max > rule + 0.5
                ? `, more than the ${rule.toFixed(0)} % of this condition.`
                : `, within the ${rule.toFixed(0)} % of this condition.`}
            </>
          )}
        </Typography>
      ) : (
        <Typography color="text.secondary">Measuring…</Typography>
      )}
      <Toggle
        label="Show it beside the press view"
        help="The first pane prints the artwork's own numbers as they are, the second the recipe's."
        checked={look.layout === "unconverted"}
        onChange={(on) =>
          onLook({
            ...look,
            layout: on ? "unconverted" : "pair",
            // Asked for beside each other, both are to be seen, also where one would be larger.
            arrangement: on && look.arrangement === "fit" ? "side" : look.arrangement,
          })
        }
      />
    </Box>
  );
}
