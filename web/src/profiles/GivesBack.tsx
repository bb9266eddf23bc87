import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Examination } from "../api";
import { Swatch } from "../plots/Swatch";
import { jobsQuery } from "../queries/jobs";
import { pictureTripQuery } from "../queries/profiles";
import { Explained, Notice, Pick } from "../ui";
import { cells } from "../ui/cells";
import { labText, lostTones, number } from "../ui/numbers";

const BANDS = ["0.25", "0.5", "1", "2", "4", "8"];

/** What it gives back: round trip, its histogram and worst colours, smoothness. */
export function GivesBack({ found, profile }: { found: Examination; profile: number }) {
  const [job, setJob] = useState("");
  const jobs = useQuery({ ...jobsQuery, enabled: found.round_trip !== null });
  const ofPicture = useQuery({ ...pictureTripQuery(Number(job), profile), enabled: job !== "" });
  const trip = job ? ofPicture.data : found.round_trip;
  const lost = job ? ofPicture.data?.tones_lost : null;
  const over = (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
      <Typography>Colours</Typography>
      <Pick
        label="Which colours come back"
        width={280}
        value={job}
        options={{
          "": "20,000 printable ones",
          ...Object.fromEntries((jobs.data ?? []).map((j) => [String(j.id), `those of ${j.name}`])),
        }}
        onChange={setJob}
      />
    </Box>
  );
  if (ofPicture.error)
    return (
      <>
        {over}
        <Notice problem={ofPicture.error} />
      </>
    );
  if (job && !trip)
    return (
      <>
        {over}
        <Typography color="text.secondary">Following the picture’s colours…</Typography>
      </>
    );
  if (!trip) return <Typography>A way is missing, so nothing can come back.</Typography>;
  const highest = Math.max(...trip.histogram, 0.001);
  return (
    <Box>
      {over}
      <Typography>
        <Explained of="round_trip">
          {job ? "The picture’s colours, to inks and back" : "Printable colours, to inks and back"}
        </Explained>
        : <b>{number(trip.mean, 2)} ΔE00</b> in the mean, {number(trip.p95, 2)} at 95 %,{" "}
        {number(trip.p99, 2)} at 99 %, {number(trip.max, 2)} at most.
      </Typography>
      {lost && (
        <Typography data-testid="tones-lost" sx={{ mt: 0.5 }}>
          <Explained of="tones_lost">Tones lost</Explained>: {lostTones(lost)}.
        </Typography>
      )}
      <Box
        role="img"
        aria-label="How many colours come back how well"
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(7, 56px)",
          alignItems: "end",
          height: 96,
          mt: 1.5,
        }}
      >
        {trip.histogram.map((share, i) => (
          <Box key={i} data-explained="round_trip" sx={{ textAlign: "center", fontSize: 11 }}>
            {number(share * 100, share < 0.1 ? 1 : 0)} %
            <Box
              sx={{ height: Math.max(1, (share / highest) * 54), bgcolor: "text.primary", mx: 0.5 }}
            />
            {BANDS[i] ? `to ${BANDS[i]}` : "above"}
          </Box>
        ))}
      </Box>
      {found.smoothness && (
        <Typography sx={{ mt: 1.5 }}>
          <Explained of="smoothness">Smoothness</Explained>: along ramps with steps of 1 ΔE
          neighbouring steps of the print differ by {number(found.smoothness.print_p99, 2)} ΔE at 99
          %, inks bend by {number(found.smoothness.ink_p99, 2)} % at 99 %,{" "}
          {number(found.smoothness.ink_max, 1)} % at most.
        </Typography>
      )}
      <Typography variant="h3" sx={{ mt: 1.5, mb: 0.5 }}>
        Colours that come back worst
      </Typography>
      <Box component="table" sx={cells} aria-label="Worst colours">
        <thead>
          <tr>
            <th>Asked</th>
            <th>Printed</th>
            <th>Inks</th>
            <th>ΔE00</th>
          </tr>
        </thead>
        <tbody>
          {trip.worst.map((m, i) => (
            <tr key={i} data-explained="round_trip">
              <td>
                <Swatch lab={m.asked} />
                {labText(m.asked)}
              </td>
              <td>
                <Swatch lab={m.printed} />
                {labText(m.printed)}
              </td>
              <td>
                {Object.entries(m.inks)
                  .map(([n, v]) => `${n} ${number(v, 0)}`)
                  .join("  ")}
              </td>
              <td>{number(m.de00, 2)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
