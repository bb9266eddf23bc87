import { Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask } from "../../api";
import { profilesQuery } from "../../queries/conditions";
import { Choice, Section } from "../../ui/controls";
import type { StageProps } from "../StageRail";
import { deliveriesKey } from "../useDeliveries";

const OWN = "own";

/** The artwork with its corrections and for no press, to be worked on elsewhere and brought back. */
export function CorrectedArtwork({ job, destination, control }: StageProps) {
  const client = useQueryClient();
  const [space, setSpace] = useState(OWN);
  const profiles = useQuery(profilesQuery);
  const spaces = (profiles.data ?? []).filter(
    (p) => p.colour_space === "RGB" && p.parts.includes("arrival"),
  );
  const start = useMutation({
    mutationFn: async () => {
      await control.settled();
      return ask(
        api.POST("/api/destinations/{id}/corrected", {
          params: { path: { id: destination.id } },
          body: { space: space === OWN ? null : space },
        }),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: deliveriesKey(destination.id) }),
  });
  const corrections = control.recipe.corrections.filter((c) => c.on).length;
  return (
    <Section
      title="Corrected artwork"
      fact={corrections === 1 ? "1 correction" : `${corrections || "no"} corrections`}
    >
      <Typography variant="body2" sx={{ mb: 0.75 }}>
        The artwork with its corrections, before any press: 16-bit TIFF at its own size. Work on it
        elsewhere and bring it back in the stage Artwork; points, regions and recipes stay.
      </Typography>
      <Choice
        label="In"
        value={space}
        options={{
          [OWN]:
            control.recipe.arrival === null
              ? `its own space, ${destination.source.profile ?? job.artwork.facts.space}`
              : "the space it came into",
          ...Object.fromEntries(spaces.map((p) => [p.sha256, p.description])),
        }}
        onChange={setSpace}
      />
      <Button
        fullWidth
        sx={{ mt: 0.75 }}
        disabled={start.isPending || job.question !== ""}
        onClick={() => start.mutate()}
      >
        Deliver the corrected artwork
      </Button>
      {start.error && (
        <Typography role="alert" sx={{ mt: 0.5, fontWeight: 650 }}>
          {start.error.message}
        </Typography>
      )}
      {start.data && !start.error && (
        <Typography role="status" sx={{ mt: 0.5, overflowWrap: "anywhere" }}>
          {start.data.file_name} is listed below.
        </Typography>
      )}
    </Section>
  );
}
