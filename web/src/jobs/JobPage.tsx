import { Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Navigate, useParams } from "react-router";

import { Notice, Shell } from "../shell";
import { STAGES, type Stage } from "../stages/wording";
import { ConditionTabs } from "./ConditionTabs";
import { jobQuery } from "./queries";
import { Workbench } from "./Workbench";

/** One job: its conditions on top, the stage rail and the pictures below. */
export function JobPage() {
  const { jobId = "", destinationId = "", stage = "" } = useParams();
  const job = useQuery(jobQuery(Number(jobId)));
  if (job.error) {
    return (
      <Shell title="Job"><Notice problem={job.error} onRetry={() => void job.refetch()} /></Shell>
    );
  }
  if (!job.data) return <Shell title="…"><Typography sx={{ p: 3 }}>Reading the job…</Typography></Shell>;
  const chosen = job.data.destinations.find((d) => d.id === Number(destinationId));
  const first = job.data.destinations[0];
  const known = STAGES.some((s) => s.key === stage);
  if ((!chosen || !known) && first) {
    return <Navigate replace to={`/jobs/${jobId}/${chosen?.id ?? first.id}/${known ? stage : "press-view"}`} />;
  }
  const facts = job.data.artwork.facts;
  const size = facts.print_size_mm ? `, ${facts.print_size_mm.map((v) => v.toFixed(0)).join(" × ")} mm` : "";
  return (
    <Shell
      title={job.data.name}
      detail={`${facts.width} × ${facts.height} px, ${facts.bits} bit${size}`}
      actions={<ConditionTabs job={job.data} chosen={chosen?.id} stage={stage} />}
    >
      {chosen ? (
        <Workbench key={chosen.id} job={job.data} destination={chosen} stage={stage as Stage} />
      ) : (
        <Typography sx={{ p: 3 }}>This job goes nowhere yet. Add a condition at the top right.</Typography>
      )}
    </Shell>
  );
}
