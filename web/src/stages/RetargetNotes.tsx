import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, ask, type Destination, type Job } from "../api";
import { keys } from "../queries/keys";

const WAYS = { attention: "Look at", adapted: "Adapted", kept: "Kept" } as const;

/** What re-targeting did to the recipe, until it has been read. */
export function RetargetNotes({ job, destination }: { job: Job; destination: Destination }) {
  const client = useQueryClient();
  const read = useMutation({
    mutationFn: () =>
      ask(api.DELETE("/api/destinations/{id}/notes", { params: { path: { id: destination.id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: [...keys.jobs, job.id] }),
  });
  if (destination.notes.length === 0) return null;
  return (
    <Box
      component="li"
      role="region"
      aria-label="Taken over"
      sx={{
        mx: 2,
        mb: 1,
        p: 1.25,
        border: 2,
        borderColor: "text.primary",
        bgcolor: "background.paper",
      }}
    >
      <Typography sx={{ fontWeight: 700 }}>The recipe was taken over</Typography>
      {destination.notes.map((n) => (
        <Typography
          key={n.text.text}
          variant="body2"
          sx={{ mt: 0.5, fontWeight: n.way === "attention" ? 650 : 400 }}
        >
          {WAYS[n.way]}: {n.text.text}
        </Typography>
      ))}
      <Button sx={{ mt: 1 }} onClick={() => read.mutate()}>
        I have read it
      </Button>
    </Box>
  );
}
