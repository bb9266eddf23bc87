import { Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { api, ask } from "../../api";
import { keys } from "../../queries/keys";
import { Section } from "../../ui/controls";
import { Findings } from "../Findings";
import type { StageProps } from "../StageRail";

/** The check of what is delivered, of this recipe and no other: only "found" lets a delivery through. */
export function useCheck({ job, destination, control }: StageProps, deliveries: number) {
  const check = useQuery({
    queryKey: [
      ...keys.check,
      destination.id,
      JSON.stringify(destination),
      job.question,
      deliveries,
    ],
    queryFn: ({ signal }) =>
      ask(
        api.GET("/api/destinations/{id}/check", {
          params: { path: { id: destination.id } },
          signal,
        }),
      ),
    enabled: control.saved,
  });
  const data = control.saved ? check.data : undefined;
  const { measureOnce, measuring, measuringFailed } = control;
  const unmeasured = data !== undefined && !data.measured && !measuring && !measuringFailed;
  // Another window may have changed what was measured.
  useEffect(() => {
    if (unmeasured) measureOnce();
  }, [unmeasured, measureOnce]);
  const failed = check.error ?? (data && !data.measured ? measuringFailed : null);
  return {
    findings: data?.findings ?? [],
    fileName: data?.file_name ?? "",
    state: failed
      ? ("failed" as const)
      : data?.measured
        ? ("found" as const)
        : ("checking" as const),
    problem: failed?.message ?? "",
    again: () => {
      void check.refetch();
      if (measuringFailed) measureOnce();
    },
  };
}

export type Check = ReturnType<typeof useCheck>;

const FACTS = { checking: "checking…", failed: "not checked" };

/** What would surprise the receiver, as far as it is known: being checked, not checked, or found. */
export function BeforeItGoes({ check }: { check: Check }) {
  const { findings, state } = check;
  return (
    <Section
      title="Before it goes"
      fact={
        state !== "found"
          ? FACTS[state]
          : findings.length > 0
            ? `${findings.length} to know`
            : "no surprises"
      }
      open
    >
      <Findings
        findings={findings}
        {...(state === "found" && { none: "Nothing here would surprise the receiver." })}
      />
      {state === "checking" && (
        <Typography role="status" variant="body2" sx={{ mt: 1 }}>
          {findings.length > 0 ? "Inks and colours are still being measured…" : "Being checked…"}
        </Typography>
      )}
      {state === "failed" && (
        <>
          <Typography role="alert" sx={{ fontWeight: 650, mt: 1 }}>
            This could not be checked, so nothing is delivered. {check.problem}
          </Typography>
          <Button onClick={check.again} sx={{ mt: 0.5 }}>
            Check again
          </Button>
        </>
      )}
    </Section>
  );
}
