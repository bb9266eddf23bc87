import { FormControlLabel, MenuItem, Radio, RadioGroup, Select, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";

import { profilesQuery } from "../jobs/queries";
import { Sentence } from "../shell";
import type { StageProps } from "./StageRail";
import { profileSpace } from "./wording";

/** What the artwork's numbers mean: keep what is embedded, or assign something else. */
export function SourceStage({ job, control }: StageProps) {
  const { facts } = job.artwork;
  const profiles = useQuery(profilesQuery);
  const space = profileSpace(job.artwork);
  const fitting = profiles.data?.filter((p) => p.colour_space === space && p.device_class !== "device link") ?? [];
  const { source } = control.recipe;
  const canKeep = !facts.profile_problem && (Boolean(facts.profile) || facts.space !== "CMYK");
  const kept = facts.profile
    ? `Keep the embedded profile, ${facts.profile}`
    : facts.declared_srgb ? "Take it as sRGB, as the file declares" : `Use the house default, ${facts.space === "Grey" ? "grey gamma 2.2" : "sRGB"}`;
  const known = fitting.find((p) => p.sha256 === source) ?? fitting.find((p) => p.origin === "standard" && p.description.replace(/\W/g, "").toLowerCase().startsWith(String(source)));
  const assign = (sha: string) => control.commit({ source: sha });
  return (
    <>
      {!facts.profile && (
        <Sentence>
          <b>No profile is embedded.</b> The numbers have no defined colours: two systems will guess differently. Ask the sender, or choose the space in which it looks right.
        </Sentence>
      )}
      <RadioGroup
        aria-label="Source profile" value={source === null ? "keep" : "assign"}
        onChange={(e) => (e.target.value === "keep" ? control.commit({ source: null }) : fitting[0] && assign(fitting[0].sha256))}
      >
        <FormControlLabel disabled={!canKeep} value="keep" control={<Radio size="small" />} label={<Typography>{kept}</Typography>} />
        <FormControlLabel value="assign" control={<Radio size="small" />} label={<Typography>Assign another profile</Typography>} />
      </RadioGroup>
      {source !== null && (
        <Select fullWidth value={known?.sha256 ?? ""} displayEmpty inputProps={{ "aria-label": "Assigned profile" }} onChange={(e) => assign(e.target.value)}>
          {!known && <MenuItem value="" disabled>choose a profile</MenuItem>}
          {fitting.map((p) => <MenuItem key={p.id} value={p.sha256}>{p.description}{p.origin === "embedded" ? " (from artwork)" : ""}</MenuItem>)}
        </Select>
      )}
      <Sentence>
        Assigning changes what the numbers mean and leaves the numbers alone, so the picture changes. Converting changes the numbers and keeps the appearance; that is what the stages below do.
      </Sentence>
    </>
  );
}
