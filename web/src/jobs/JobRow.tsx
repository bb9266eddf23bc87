import { Box, Typography } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";

import { api, ask, type Destination, type Job } from "../api";
import { keys } from "../queries/keys";
import { Explained, RemoveButton } from "../ui";
import { artworkLine, hasInks, INTENT_NAMES } from "../ui/wording";

function DestinationCard({ job, destination }: { job: Job; destination: Destination }) {
  const { facts, recipe, condition } = destination;
  return (
    <Box
      component={Link}
      to={`/jobs/${job.id}/${destination.id}/press-view`}
      sx={{
        display: "grid",
        gridTemplateColumns: "1fr auto",
        alignContent: "start",
        columnGap: 2,
        rowGap: 0.25,
        width: 236,
        p: 1.25,
        border: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
        color: "text.primary",
        textDecoration: "none",
        typography: "body2",
        "&:hover": { borderColor: "text.primary" },
      }}
    >
      <Typography noWrap sx={{ fontWeight: 700, gridColumn: "1 / -1" }}>
        {condition.name}
      </Typography>
      <Typography
        variant="body2"
        noWrap
        color="text.secondary"
        sx={{ gridColumn: "1 / -1", mb: 0.5 }}
      >
        {INTENT_NAMES[recipe.intent]}
      </Typography>
      {facts.intent ? (
        <>
          <Explained of="out_of_gamut" focus={false}>
            out of gamut
          </Explained>
          <Box data-explained="out_of_gamut" component="span" sx={{ textAlign: "right" }}>
            {facts.intent.out_of_gamut.toFixed(1)} %
          </Box>
          <Explained of="de00_mean" focus={false}>
            mean ΔE00
          </Explained>
          <Box data-explained="de00_mean" component="span" sx={{ textAlign: "right" }}>
            {facts.intent.de00_mean.toFixed(1)}
          </Box>
          {hasInks(condition) && (
            <>
              <Explained of="tac_max" focus={false}>
                highest TAC
              </Explained>
              <Box data-explained="tac_max" component="span" sx={{ textAlign: "right" }}>
                {facts.tac_max?.toFixed(0)} of {facts.tac_rule?.toFixed(0)} %
              </Box>
            </>
          )}
        </>
      ) : (
        <Box component="span" sx={{ gridColumn: "1 / -1", color: "text.secondary" }}>
          measured when opened
        </Box>
      )}
    </Box>
  );
}

/** One job: its picture, facts, and a card for every destination. */
export function JobRow({ job }: { job: Job }) {
  const client = useQueryClient();
  const path = { params: { path: { id: job.id } } };
  const first = job.destinations[0];
  return (
    <Box
      component="li"
      sx={{ display: "flex", gap: 2.5, px: 2, py: 1.75, borderBottom: 1, borderColor: "divider" }}
    >
      <Box
        component={Link}
        to={first ? `/jobs/${job.id}/${first.id}/press-view` : `/jobs/${job.id}`}
        aria-label={`Open ${job.name}`}
        sx={{
          width: 172,
          height: 118,
          flex: "none",
          bgcolor: "#777777",
          display: "grid",
          placeItems: "center",
        }}
      >
        <Box
          component="img"
          src={`/api/artwork/${job.artwork.id}/thumbnail.png`}
          alt=""
          sx={{ maxWidth: 158, maxHeight: 104 }}
        />
      </Box>
      <Box sx={{ width: 250, flex: "none" }}>
        <Typography component="h2" sx={{ fontSize: 15, fontWeight: 700 }}>
          {job.name}
        </Typography>
        {artworkLine(job.artwork).map((line, i) => (
          <Typography key={line} variant="body2" color="text.secondary">
            <Explained
              of={(["bits", "pixels", "source_values"] as const)[i] ?? "bits"}
              focus={false}
            >
              {line}
            </Explained>
          </Typography>
        ))}
        <RemoveButton
          label="Remove"
          quiet
          name={job.name}
          uses={() => ask(api.GET("/api/jobs/{id}/uses", path))}
          remove={() => ask(api.DELETE("/api/jobs/{id}", path))}
          restore={() => ask(api.POST("/api/jobs/{id}/restore", path))}
          onDone={() => client.invalidateQueries({ queryKey: keys.jobs })}
        />
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1.25 }}>
        {job.destinations.map((d) => (
          <DestinationCard key={d.id} job={job} destination={d} />
        ))}
      </Box>
    </Box>
  );
}
