import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type OutputPolicy } from "../api";
import { runQuery } from "../queries/policies";

/** Starts runs of a policy and follows the newest one. */
export function useRun() {
  const [id, setId] = useState<number | null>(null);
  const run = useQuery(runQuery(id));
  const start = useMutation({
    mutationFn: ({
      policy,
      document,
      dry,
    }: {
      policy: OutputPolicy;
      document: number;
      dry: boolean;
    }) => ask(api.POST("/api/policy-runs", { body: { policy, document, dry } })),
    onSuccess: (made) => setId(made.id),
  });
  const stop = useMutation({
    mutationFn: (pk: number) =>
      ask(api.POST("/api/policy-runs/{id}/cancel", { params: { path: { id: pk } } })),
  });
  return { run: run.data, start, stop };
}
