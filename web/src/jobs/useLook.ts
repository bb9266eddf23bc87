import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import { api, ask, type Job } from "../api";
import { keys } from "../queries/keys";
import { type Look, lookFrom, lookToKeep } from "../viewer";

const REST = 400;

/** How one looks at a job, kept for the next condition and the next time. */
export function useLook(job: Job): [Look, (look: Look) => void] {
  const client = useQueryClient();
  const [look, setLook] = useState(() => lookFrom(job.look));
  const { mutate } = useMutation({
    mutationFn: (next: Look) =>
      ask(
        api.PUT("/api/jobs/{id}/look", {
          params: { path: { id: job.id } },
          body: lookToKeep(next),
        }),
      ),
    onSuccess: (kept) =>
      client.setQueryData<Job>([...keys.jobs, job.id], (old) => old && { ...old, look: kept }),
  });
  const waiting = useRef<{ timer: number; look: Look } | null>(null);
  const change = (next: Look) => {
    setLook(next);
    if (waiting.current) clearTimeout(waiting.current.timer);
    const timer = window.setTimeout(() => {
      waiting.current = null;
      mutate(next);
    }, REST);
    waiting.current = { timer, look: next };
  };
  // What has not been kept yet goes out when the page is left.
  useEffect(
    () => () => {
      if (!waiting.current) return;
      clearTimeout(waiting.current.timer);
      mutate(waiting.current.look);
    },
    [mutate],
  );
  return [look, change];
}
