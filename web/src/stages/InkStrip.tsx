import { Box, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, ask, type Destination } from "../api";
import type { RecipeControl } from "../jobs/useRecipe";
import { InkBars, NeutralPlot } from "../plots";
import { Explained } from "../shell";

interface Props {
  destination: Destination;
  control: RecipeControl;
}

/** The separation of the grey axis, live, and the mean coverage of every ink. */
export function InkStrip({ destination, control }: Props) {
  const stamp = JSON.stringify(destination.recipe);
  const path = { id: destination.id };
  const query = control.changes ? { changes: control.changes } : {};
  const axis = useQuery({
    queryKey: ["neutral", destination.id, stamp, control.changes],
    queryFn: () => ask(api.GET("/api/destinations/{id}/neutral", { params: { path, query } })),
    placeholderData: keepPreviousData,
  });
  const figures = useQuery({
    queryKey: ["inks", destination.id, stamp],
    queryFn: () => ask(api.GET("/api/destinations/{id}/inks", { params: { path } })),
    placeholderData: keepPreviousData,
  });
  const darkest = axis.data?.print_lightness[0];
  return (
    <Box component="section" aria-label="Separation" sx={{ flex: "none", height: 166, display: "flex", gap: 3, px: 1.75, pt: 1, borderTop: 1, borderColor: "divider", overflow: "hidden" }}>
      <Box sx={{ width: 130, flex: "none" }}>
        <Typography variant="h2">Greys in inks</Typography>
        <Typography variant="body2" color="text.secondary">How paper to black is printed; tone value over L* of the artwork.</Typography>
      </Box>
      {axis.data && <NeutralPlot axis={axis.data} />}
      <Box sx={{ flex: 1, maxWidth: 300 }}>
        <Typography variant="h2" sx={{ mb: 0.5 }}>Mean coverage, %</Typography>
        {figures.data && <InkBars inks={figures.data.coverage} />}
        {darkest !== undefined && (
          <Typography sx={{ mt: 1 }}>
            <Explained text="Lightness of the artwork's black in print under these rules, the medium being 100.">Darkest grey L* <b>{darkest.toFixed(1)}</b></Explained>
          </Typography>
        )}
      </Box>
    </Box>
  );
}
