import { Box, LinearProgress, Typography } from "@mui/material";

import type { Folder } from "../api";
import { Explained } from "../ui";
import { bytes, moment, span } from "../ui";
import { list } from "../ui/cells";

type File = Folder["files"][number];

function outcome(f: File): string {
  if (f.state === "done")
    return f.note && !f.out_name
      ? f.note
      : `out/${f.out_name}, ${bytes(f.result_size ?? 0)}${f.note ? `. ${f.note}` : ""}`;
  if (f.state === "failed") return `failed/${f.name}: ${f.error}`;
  if (f.state === "cancelled") return "cancelled; the original is kept";
  return f.seconds_left ? `about ${span(f.seconds_left)} left` : "";
}

/** What came into a folder, and what became of it. */
export function FolderFiles({ files, settling }: { files: File[]; settling: string[] }) {
  if (files.length === 0 && settling.length === 0)
    return <Typography color="text.secondary">Nothing has come yet.</Typography>;
  return (
    <Box component="table" aria-label="Files" sx={list}>
      <thead>
        <tr>
          <th>
            <Explained of="file_size">File</Explained>
          </th>
          <th>
            <Explained of="when">Came</Explained>
          </th>
          <th>State</th>
          <th>
            <Explained of="file_size">Became</Explained>
          </th>
        </tr>
      </thead>
      <tbody>
        {settling.map((name) => (
          <tr key={name} data-state="settling">
            <td>
              <b>{name}</b>
            </td>
            <td>now</td>
            <td>settling</td>
            <td>taken when it has stopped growing</td>
          </tr>
        ))}
        {files.map((f) => (
          <tr key={f.id} data-state={f.state}>
            <td style={{ overflowWrap: "anywhere", minWidth: 170 }}>
              <b>{f.name}</b>
              <br />
              {bytes(f.size)}
            </td>
            <td style={{ whiteSpace: "nowrap" }}>{moment(f.created)}</td>
            <td>
              {f.state}
              {f.state === "running" && (
                <LinearProgress
                  variant="determinate"
                  value={(f.progress ?? 0) * 100}
                  aria-label={`Progress of ${f.name}`}
                />
              )}
            </td>
            <td style={{ fontWeight: f.state === "failed" ? 650 : 450, overflowWrap: "anywhere" }}>
              {outcome(f)}
            </td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
