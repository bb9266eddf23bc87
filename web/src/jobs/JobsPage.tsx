import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { type DragEvent, useRef, useState } from "react";

import { jobsQuery } from "../queries/jobs";
import { Shell } from "../shell";
import { Explained, Notice } from "../ui";
import { FileInput } from "../ui/FileInput";
import { FirstSteps } from "./FirstSteps";
import { JobRow } from "./JobRow";
import { NewJobsPanel } from "./NewJobsPanel";

/** All jobs; artwork is imported by dropping it anywhere or through the file dialog. */
export function JobsPage() {
  const jobs = useQuery(jobsQuery);
  const [files, setFiles] = useState<{ files: File[]; round: number }>({ files: [], round: 0 });
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const take = (taken: File[]) => {
    if (taken.length) setFiles({ files: taken, round: files.round + 1 });
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    take([...event.dataTransfer.files]);
  };
  return (
    <Shell
      detail={
        jobs.data ? (
          <Explained of="jobs">
            {jobs.data.length} {jobs.data.length === 1 ? "job" : "jobs"}
          </Explained>
        ) : (
          ""
        )
      }
      actions={
        <Button variant="contained" onClick={() => input.current?.click()}>
          Import artwork…
        </Button>
      }
    >
      <Box
        sx={{
          height: "100%",
          overflow: "auto",
          outline: over ? "3px dashed" : "none",
          outlineOffset: -8,
        }}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        <FileInput
          ref={input}
          label="Artwork file"
          accept=".tif,.tiff,.png,.jpg,.jpeg,.psd,.psb"
          multiple
          onFiles={take}
        />
        {files.files.length > 0 && (
          <NewJobsPanel
            key={files.round}
            files={files.files}
            onClose={() => setFiles({ ...files, files: [] })}
          />
        )}
        {jobs.error && <Notice problem={jobs.error} onRetry={() => void jobs.refetch()} />}
        {jobs.isPending && (
          <Typography sx={{ p: 3 }} color="text.secondary">
            Reading the jobs…
          </Typography>
        )}
        {jobs.data?.length === 0 && files.files.length === 0 && (
          <FirstSteps onArtwork={() => input.current?.click()} />
        )}
        <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {jobs.data?.map((job) => (
            <JobRow key={job.id} job={job} />
          ))}
        </Box>
        {Boolean(jobs.data?.length) && (
          <Typography sx={{ p: 2 }} color="text.secondary">
            Drop TIFF, PNG, JPEG or PSD files anywhere on this page to start jobs.
          </Typography>
        )}
      </Box>
    </Shell>
  );
}
