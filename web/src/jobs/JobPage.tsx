import { Typography } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Navigate, useParams } from "react-router";

import type { Destination, Job } from "../api";
import { jobQuery } from "../queries/jobs";
import { keys } from "../queries/keys";
import { Shell } from "../shell";
import { Notice } from "../ui";
import { type Stage, STAGES } from "../ui/wording";
import { ConditionTabs } from "./ConditionTabs";
import { useLook } from "./useLook";
import { Workbench } from "./Workbench";

interface WorkProps {
  job: Job;
  chosen: Destination;
  stage: Stage;
}

/** The work on a job, looked at in the same way whatever condition it is for. */
function Work({ job, chosen, stage }: WorkProps) {
  const [look, setLook] = useLook(job);
  return (
    <Workbench
      key={chosen.id}
      job={job}
      destination={chosen}
      stage={stage}
      look={look}
      onLook={setLook}
    />
  );
}

/** Forget what was asked of a job's former picture once another has taken its place, also where
 * another window or person put it there. */
function useFreshFigures(artwork: number | undefined) {
  const client = useQueryClient();
  const seen = useRef(artwork);
  useEffect(() => {
    if (seen.current !== undefined && artwork !== undefined && seen.current !== artwork)
      void client.resetQueries({ predicate: (query) => query.queryKey[0] !== keys.jobs[0] });
    if (artwork !== undefined) seen.current = artwork;
  }, [artwork, client]);
}

/** One job: its conditions on top, the stage rail and the pictures below. */
export function JobPage() {
  const { jobId = "", destinationId = "", stage = "" } = useParams();
  // Another window's changes are on screen within two seconds.
  const job = useQuery({ ...jobQuery(Number(jobId)), refetchInterval: 1500 });
  useFreshFigures(job.data?.artwork.id);
  if (job.error && !job.data) {
    return (
      <Shell title="Job">
        <Notice problem={job.error} onRetry={() => void job.refetch()} />
      </Shell>
    );
  }
  if (!job.data)
    return (
      <Shell title="…">
        <Typography sx={{ p: 3 }}>Reading the job…</Typography>
      </Shell>
    );
  const chosen = job.data.destinations.find((d) => d.id === Number(destinationId));
  const first = job.data.destinations[0];
  const known = STAGES.some((s) => s.key === stage);
  if ((!chosen || !known) && first) {
    return (
      <Navigate
        replace
        to={`/jobs/${jobId}/${chosen?.id ?? first.id}/${known ? stage : "press-view"}`}
      />
    );
  }
  const facts = job.data.artwork.facts;
  const size = facts.print_size_mm
    ? `, ${facts.print_size_mm.map((v) => v.toFixed(0)).join(" × ")} mm`
    : "";
  return (
    <Shell
      title={job.data.name}
      detail={`${facts.width} × ${facts.height} px, ${facts.bits} bit${size}`}
      actions={<ConditionTabs job={job.data} chosen={chosen?.id} />}
    >
      {chosen ? (
        <Work key={job.data.id} job={job.data} chosen={chosen} stage={stage as Stage} />
      ) : (
        <Typography sx={{ p: 3 }}>
          This job goes nowhere yet. Add a condition at the top right.
        </Typography>
      )}
    </Shell>
  );
}
