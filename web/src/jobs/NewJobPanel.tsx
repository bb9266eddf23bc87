import { Box, Button, Checkbox, FormControlLabel, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";

import { api, ask } from "../api";
import { Notice, Sentence } from "../shell";
import { Findings } from "../stages/Findings";
import { artworkLine, hasInks } from "../stages/wording";
import { conditionsQuery } from "./queries";
import { uploadArtwork } from "./upload";

/** Import in three lines: the file goes up, its facts appear, conditions are ticked. */
export function NewJobPanel({ file, onClose }: { file: File; onClose: () => void }) {
  const [share, setShare] = useState(0);
  const [ticked, setTicked] = useState<number[]>([]);
  const client = useQueryClient();
  const navigate = useNavigate();
  const conditions = useQuery(conditionsQuery);
  const upload = useMutation({ mutationFn: (chosen: File) => uploadArtwork(chosen, setShare) });
  const create = useMutation({
    mutationFn: (artwork: number) => ask(api.POST("/api/jobs", { body: { artwork, conditions: ticked } })),
    onSuccess: async (job) => {
      await client.invalidateQueries({ queryKey: ["jobs"] });
      void navigate(`/jobs/${job.id}/${job.destinations[0]?.id}/artwork`);
    },
  });
  const started = useRef(false);
  useEffect(() => {
    if (started.current) return;
    started.current = true;
    upload.mutate(file);
  }, [file, upload]);
  const artwork = upload.data;
  return (
    <Box component="section" aria-label="New job" sx={{ m: 2, p: 2, border: 2, borderColor: "text.primary", bgcolor: "background.paper" }}>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1.5 }}>
        <Typography component="h2" sx={{ fontSize: 15, fontWeight: 700 }}>{artwork?.name ?? file.name}</Typography>
        <Typography color="text.secondary">{file.size < 1e5 ? `${Math.ceil(file.size / 1e3)} kB` : `${(file.size / 1e6).toFixed(1)} MB`}</Typography>
        <Box sx={{ flex: 1 }} />
        <Button onClick={onClose}>Close</Button>
      </Box>
      {upload.isPending && (
        <Box sx={{ mt: 1, maxWidth: 420 }}>
          <Typography>{share < 1 ? "Sending the file…" : "Checking and decoding…"}</Typography>
          <LinearProgress variant={share < 1 ? "determinate" : "indeterminate"} value={share * 100} aria-label="Import" />
        </Box>
      )}
      {upload.error && <Notice problem={upload.error} onDismiss={onClose} />}
      {artwork && (
        <Box sx={{ display: "flex", gap: 3, mt: 1.5, flexWrap: "wrap" }}>
          <Box sx={{ width: 180, height: 130, bgcolor: "#777777", display: "grid", placeItems: "center" }}>
            <Box component="img" src={`/api/artwork/${artwork.id}/thumbnail.png`} alt="The imported picture" sx={{ maxWidth: 166, maxHeight: 116 }} />
          </Box>
          <Box sx={{ maxWidth: 330 }}>
            {artworkLine(artwork).map((line) => <Typography key={line}>{line}</Typography>)}
            <Findings findings={artwork.facts.findings ?? []} />
            {!artwork.facts.profile && <Sentence>No profile is embedded, so the numbers have no defined colours. The house rules say what stands in; the stage Source lets you choose.</Sentence>}
          </Box>
          <Box sx={{ minWidth: 300 }}>
            <Typography variant="h2">Where does it go?</Typography>
            <Box sx={{ display: "flex", flexDirection: "column" }}>
              {conditions.data?.map((c) => (
                <FormControlLabel
                  key={c.id} sx={{ height: 28 }}
                  control={<Checkbox size="small" checked={ticked.includes(c.id)} onChange={(e) => setTicked(e.target.checked ? [...ticked, c.id] : ticked.filter((t) => t !== c.id))} />}
                  label={<Typography>{c.name} <Box component="span" sx={{ color: "text.secondary" }}>{hasInks(c) ? `TAC ${c.ink_rules.tac} %` : "takes RGB"}</Box></Typography>}
                />
              ))}
            </Box>
            <Button variant="contained" sx={{ mt: 1 }} disabled={!ticked.length || create.isPending} onClick={() => create.mutate(artwork.id)}>Start the job</Button>
            {create.error && <Notice problem={create.error} />}
          </Box>
        </Box>
      )}
    </Box>
  );
}
