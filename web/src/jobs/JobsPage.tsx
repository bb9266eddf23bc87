import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { type DragEvent, useRef, useState } from "react";

import { Notice, Shell } from "../shell";
import { JobRow } from "./JobRow";
import { NewJobPanel } from "./NewJobPanel";
import { jobsQuery } from "./queries";

/** All jobs; artwork is imported by dropping it anywhere or through the file dialog. */
export function JobsPage() {
  const jobs = useQuery(jobsQuery);
  const [file, setFile] = useState<File | null>(null);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    setFile(event.dataTransfer.files[0] ?? null);
  };
  return (
    <Shell
      detail={jobs.data ? `${jobs.data.length} ${jobs.data.length === 1 ? "job" : "jobs"}` : ""}
      actions={<Button variant="contained" onClick={() => input.current?.click()}>Import artwork…</Button>}
    >
      <Box
        sx={{ height: "100%", overflow: "auto", outline: over ? "3px dashed" : "none", outlineOffset: -8 }}
        onDragOver={(e) => { e.preventDefault(); setOver(true); }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        <input
          ref={input} type="file" hidden accept=".tif,.tiff,.png,.jpg,.jpeg,.psd,.psb" aria-label="Artwork file"
          onChange={(e) => { setFile(e.target.files?.[0] ?? null); e.target.value = ""; }}
        />
        {file && <NewJobPanel key={file.name + file.lastModified} file={file} onClose={() => setFile(null)} />}
        {jobs.error && <Notice problem={jobs.error} onRetry={() => void jobs.refetch()} />}
        {jobs.isPending && <Typography sx={{ p: 3 }} color="text.secondary">Reading the jobs…</Typography>}
        {jobs.data?.length === 0 && !file && (
          <Box sx={{ p: 8, textAlign: "center" }}>
            <Typography variant="h1" sx={{ mb: 1 }}>No jobs yet</Typography>
            <Typography sx={{ mb: 2 }}>Drop a TIFF, PNG, JPEG or PSD here. It is kept as it is; everything else is a recipe.</Typography>
            <Button onClick={() => input.current?.click()}>Choose a file…</Button>
          </Box>
        )}
        <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {jobs.data?.map((job) => <JobRow key={job.id} job={job} />)}
        </Box>
        {Boolean(jobs.data?.length) && (
          <Typography sx={{ p: 2 }} color="text.secondary">Drop a TIFF, PNG, JPEG or PSD anywhere on this page to start a job.</Typography>
        )}
      </Box>
    </Shell>
  );
}
