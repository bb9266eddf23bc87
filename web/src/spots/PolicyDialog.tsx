import { Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, ask, type Condition, onRevision, type SpotBuild } from "../api";
import { keys } from "../queries/keys";
import { policiesQuery } from "../queries/policies";
import { Choice, Notice, Sheet } from "../ui";

interface Props {
  condition: Condition;
  builds: SpotBuild[];
  onClose: () => void;
}

/** Lets a policy convert spot colours by these builds. */
export function PolicyDialog({ condition, builds, onClose }: Props) {
  const client = useQueryClient();
  const policies = useQuery(policiesQuery);
  const [id, setId] = useState("");
  const fitting = (policies.data ?? []).filter(
    (p) => p.policy.destination === condition.profile.sha256,
  );
  const chosen = fitting.find((p) => String(p.id) === id) ?? fitting[0];
  const named = Object.fromEntries(builds.map((b) => [b.name, b.best.inks]));
  const over = builds.filter((b) => chosen?.policy.builds?.[b.name]).length;
  const put = useMutation({
    mutationFn: () =>
      ask(
        api.PATCH("/api/policies/{id}", {
          params: { path: { id: chosen?.id ?? 0 } },
          body: { builds: named } as never,
          ...onRevision(chosen?.revision ?? null),
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.policies }),
  });
  return (
    <Sheet
      title={`Builds for ${condition.name} into a policy`}
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          {chosen && !put.isSuccess && (
            <Button variant="contained" disabled={put.isPending} onClick={() => put.mutate()}>
              Put them in
            </Button>
          )}
        </>
      }
    >
      {put.error && <Notice problem={put.error} onDismiss={() => put.reset()} />}
      {policies.data && !chosen && (
        <Typography sx={{ "& a": { color: "inherit" } }}>
          No output policy converts to {condition.name} yet. Make one under{" "}
          <Link to="/policies">Policies</Link>, then come back.
        </Typography>
      )}
      {chosen && put.isSuccess && (
        <Typography role="status" sx={{ "& a": { color: "inherit" } }}>
          {chosen.name} converts {builds.length} spot colours by these builds now, where one of its
          rules converts them. <Link to="/policies">To the policies</Link>
        </Typography>
      )}
      {chosen && !put.isSuccess && (
        <>
          <Choice
            label="Policy"
            value={String(chosen.id)}
            options={Object.fromEntries(fitting.map((p) => [String(p.id), p.name]))}
            onChange={setId}
          />
          <Typography sx={{ mt: 1 }}>
            A spot colour of a document is found by its name. Its solid becomes the build, its tints
            their share of it.
            {over > 0 && ` ${over} of them take the place of builds that the policy has already.`}
          </Typography>
        </>
      )}
    </Sheet>
  );
}
