import { Box, Typography } from "@mui/material";
import { Link } from "react-router";

import type { Destination, Job } from "../api";
import { INTENT_NAMES, artworkLine, hasInks } from "../stages/wording";

function DestinationCard({ job, destination }: { job: Job; destination: Destination }) {
  const { facts, recipe, condition } = destination;
  return (
    <Box
      component={Link}
      to={`/jobs/${job.id}/${destination.id}/press-view`}
      sx={{
        display: "grid", gridTemplateColumns: "1fr auto", alignContent: "start", columnGap: 2, rowGap: 0.25, width: 236, p: 1.25,
        border: 1, borderColor: "divider", bgcolor: "background.paper", color: "text.primary", textDecoration: "none", typography: "body2",
        "&:hover": { borderColor: "text.primary" },
      }}
    >
      <Typography noWrap sx={{ fontWeight: 700, gridColumn: "1 / -1" }}>{condition.name}</Typography>
      <Typography variant="body2" noWrap color="text.secondary" sx={{ gridColumn: "1 / -1", mb: 0.5 }}>{INTENT_NAMES[recipe.intent]}</Typography>
      {facts.intent ? (
        <>
          <span>out of gamut</span><Box component="span" sx={{ textAlign: "right" }}>{facts.intent.out_of_gamut.toFixed(1)} %</Box>
          <span>mean ΔE00</span><Box component="span" sx={{ textAlign: "right" }}>{facts.intent.de00_mean.toFixed(1)}</Box>
          {hasInks(condition) && <><span>highest TAC</span><Box component="span" sx={{ textAlign: "right" }}>{facts.tac_max?.toFixed(0)} of {facts.tac_rule?.toFixed(0)} %</Box></>}
        </>
      ) : (
        <Box component="span" sx={{ gridColumn: "1 / -1", color: "text.secondary" }}>measured when opened</Box>
      )}
    </Box>
  );
}

/** One job: its picture, facts, and a card for every destination. */
export function JobRow({ job }: { job: Job }) {
  const first = job.destinations[0];
  return (
    <Box component="li" sx={{ display: "flex", gap: 2.5, px: 2, py: 1.75, borderBottom: 1, borderColor: "divider" }}>
      <Box component={Link} to={first ? `/jobs/${job.id}/${first.id}/press-view` : `/jobs/${job.id}`} aria-label={`Open ${job.name}`} sx={{ width: 172, height: 118, flex: "none", bgcolor: "#777777", display: "grid", placeItems: "center" }}>
        <Box component="img" src={`/api/artwork/${job.artwork.id}/thumbnail.png`} alt="" sx={{ maxWidth: 158, maxHeight: 104 }} />
      </Box>
      <Box sx={{ width: 250, flex: "none" }}>
        <Typography component="h2" sx={{ fontSize: 15, fontWeight: 700 }}>{job.name}</Typography>
        {artworkLine(job.artwork).map((line) => <Typography key={line} variant="body2" color="text.secondary">{line}</Typography>)}
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1.25 }}>
        {job.destinations.map((d) => <DestinationCard key={d.id} job={job} destination={d} />)}
      </Box>
    </Box>
  );
}
