import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, ask, type SwatchList } from "../api";
import { keys } from "../queries/keys";
import { Notice, NumberField } from "../ui";
import type { Region } from "./region";

interface Props {
  job: number;
  region: Region;
  width: number;
  height: number;
  onChange: (change: Partial<Region>) => void;
  onLeave: () => void;
  onTaken: (list: SwatchList) => void;
}

/** A region of the picture and its grid of marks in numbers, and the list they are taken into. */
export function RegionForm({ job, region, width, height, onChange, onLeave, onTaken }: Props) {
  const client = useQueryClient();
  const take = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/swatch-lists/sampled", { body: { job, ...region } as never })),
    onSuccess: async (list) => {
      await client.invalidateQueries({ queryKey: keys.swatches });
      onLeave();
      onTaken(list);
    },
  });
  const field = (
    part: keyof Region,
    label: string,
    help: string,
    unit: string,
    min: number,
    max: number,
  ) => (
    <NumberField
      key={part}
      label={label}
      help={help}
      value={region[part]}
      unit={unit}
      min={min}
      max={max}
      onRest={(value) => value !== null && onChange({ [part]: Math.round(value) })}
    />
  );
  const pixels = "In pixels of the artwork.";
  return (
    <Box role="group" aria-label="Region and its marks">
      <Typography variant="body2" sx={{ mb: 0.5 }}>
        Draw the region on the picture, or give it in pixels.
      </Typography>
      {field("x", "Left", pixels, "px", 0, width)}
      {field("y", "Top", pixels, "px", 0, height)}
      {field("width", "Width", pixels, "px", 1, width)}
      {field("height", "Height", pixels, "px", 1, height)}
      {field("columns", "Columns", "Marks beside each other.", "", 1, 100)}
      {field("rows", "Rows", "Marks below each other.", "", 1, 100)}
      {field(
        "mark",
        "A mark",
        "Edge of the square whose mean a mark takes. Larger than the artwork’s texture, smaller than its areas.",
        "px",
        1,
        501,
      )}
      {take.error && <Notice problem={take.error} />}
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Button variant="contained" disabled={take.isPending} onClick={() => take.mutate()}>
          Take {region.columns * region.rows}
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </Box>
    </Box>
  );
}
