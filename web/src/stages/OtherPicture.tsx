import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { api, ask, type Job } from "../api";
import { keys } from "../queries/keys";
import { uploadArtwork } from "../queries/upload";
import { Section, Toggle } from "../ui/controls";
import { FileInput } from "../ui/FileInput";

/** Another picture under the same job: worked on elsewhere and brought back, or a former one. */
export function OtherPicture({ job }: { job: Job }) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [inIt, setInIt] = useState(true);
  const [share, setShare] = useState(0);
  const put = async (artwork: number, corrections_in_it: boolean) =>
    ask(
      api.POST("/api/jobs/{id}/artwork", {
        params: { path: { id: job.id } },
        body: { artwork, corrections_in_it },
      }),
    );
  const done = async (changed: Job) => {
    client.setQueryData<Job>([...keys.jobs, job.id], changed);
    await client.invalidateQueries({ queryKey: keys.jobs });
  };
  const bring = useMutation({
    mutationFn: async (file: File) => put((await uploadArtwork(file, setShare)).id, inIt),
    onSuccess: done,
  });
  const back = useMutation({
    mutationFn: (artwork: number) => put(artwork, false),
    onSuccess: done,
  });
  const error = bring.error ?? back.error;
  const corrected = job.destinations.some((d) => (d.recipe.corrections ?? []).some((c) => c.on));
  return (
    <Section
      title="Another picture"
      fact={job.former.length ? `${job.former.length} former` : "worked on elsewhere"}
    >
      <Typography variant="body2">
        A picture of the same shape takes the place of this one. Points, regions and recipes stay,
        and this picture can be had again.
      </Typography>
      {corrected && (
        <Toggle
          label="Corrections are in it"
          help="The picture was delivered as corrected artwork: the recipes' corrections are turned off, so that they do not act twice."
          checked={inIt}
          onChange={setInIt}
        />
      )}
      <FileInput
        ref={input}
        label="Picture brought back"
        accept=".tif,.tiff,.png,.jpg,.jpeg,.psd"
        onFiles={(files) => files[0] && bring.mutate(files[0])}
      />
      <Button
        fullWidth
        sx={{ mt: 0.75 }}
        disabled={bring.isPending}
        onClick={() => input.current?.click()}
      >
        Bring a picture back…
      </Button>
      {bring.isPending && (
        <LinearProgress
          variant={share < 1 ? "determinate" : "indeterminate"}
          value={share * 100}
          aria-label="Taking in the picture"
          sx={{ mt: 0.75 }}
        />
      )}
      {error && (
        <Typography role="alert" sx={{ mt: 0.5, fontWeight: 650 }}>
          {error.message}
        </Typography>
      )}
      {job.former.length > 0 && (
        <Box
          component="ul"
          aria-label="Former pictures"
          sx={{ listStyle: "none", p: 0, m: 0, mt: 1 }}
        >
          {job.former.map(({ artwork, created }) => (
            <Box
              component="li"
              key={artwork.id}
              sx={{ display: "flex", gap: 1, py: 0.5, borderTop: 1, borderColor: "divider" }}
            >
              <img
                src={`/api/artwork/${artwork.id}/thumbnail.png`}
                alt=""
                style={{ width: 48, height: 36, objectFit: "contain" }}
              />
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <Typography variant="body2" noWrap title={artwork.file_name}>
                  {artwork.file_name}
                </Typography>
                <Typography variant="body2" color="text.secondary">
                  until{" "}
                  {new Date(created).toLocaleString("en-GB", {
                    dateStyle: "short",
                    timeStyle: "short",
                  })}
                </Typography>
              </Box>
              <Button
                disabled={back.isPending}
                aria-label={`Take ${artwork.file_name} again`}
                onClick={() => back.mutate(artwork.id)}
              >
                Take again
              </Button>
            </Box>
          ))}
        </Box>
      )}
    </Section>
  );
}
