import { Box, Button, FormControlLabel, Radio, RadioGroup, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type Job, type Profile } from "../api";
import { profilesQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { Explained, Pick, Sentence } from "../ui";
import { Toggle } from "../ui/controls";
import { profileSpace } from "../ui/wording";
import { AssignPick, named } from "./AssignPick";
import { ColourTables } from "./ColourTables";
import type { StageProps } from "./StageRail";
import { Vivid } from "./Vivid";

const QUESTIONS = {
  differs: "The embedded profile is not the house's default. What is to happen with it?",
  missing: "The artwork has no usable profile. The house rules ask what its numbers mean.",
} as const;

/** What the house rules ask, answered for every condition of the job at once. */
function Question({ job, fitting }: { job: Job; fitting: Profile[] }) {
  const client = useQueryClient();
  const answer = useMutation({
    mutationFn: ({ way, profile }: { way: "keep" | "convert" | "assign"; profile?: string }) =>
      ask(
        api.POST("/api/jobs/{id}/question", {
          params: { path: { id: job.id } },
          body: { answer: way, ...(profile && { profile }) },
        }),
      ),
    onSuccess: (changed) => client.setQueryData<Job>([...keys.jobs, job.id], changed),
  });
  if (!job.question) return null;
  const button = (way: "keep" | "convert" | "assign", label: string) => (
    <Button onClick={() => answer.mutate({ way })}>{label}</Button>
  );
  return (
    <Box
      role="region"
      aria-label="Question of the house rules"
      sx={{ p: 1.25, mb: 1, border: 2, borderColor: "text.primary", bgcolor: "background.paper" }}
    >
      <Typography sx={{ fontWeight: 650 }}>{QUESTIONS[job.question]}</Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, mt: 1 }}>
        {job.answers.includes("keep") && button("keep", "Keep it")}
        {job.answers.includes("convert") && button("convert", "Convert to the default")}
        {job.answers.includes("assign") && button("assign", "Assign the default")}
      </Box>
      <AssignPick
        label="Assign another profile instead"
        value=""
        prompt="Assign another profile…"
        fitting={fitting}
        space={profileSpace(job.artwork)}
        onAssign={(profile) => answer.mutate({ way: "assign", profile })}
      />
      <Typography variant="body2" sx={{ mt: 0.75 }}>
        Nothing is delivered before this is answered.
      </Typography>
      {answer.error && (
        <Typography role="alert" sx={{ fontWeight: 650 }}>
          {answer.error.message}
        </Typography>
      )}
    </Box>
  );
}

/** What the artwork's numbers mean: keep what is embedded, or assign something else. */
export function SourceStage(props: StageProps) {
  const { job, control } = props;
  const { facts } = job.artwork;
  const profiles = useQuery(profilesQuery);
  const space = profileSpace(job.artwork);
  const fitting =
    profiles.data?.filter((p) => p.colour_space === space && p.parts.includes("source")) ?? [];
  const spaces = profiles.data?.filter((p) => p.parts.includes("arrival")) ?? [];
  const { source, negative, arrival } = control.recipe;
  const canKeep =
    !facts.profile_problem && (Boolean(facts.profile) || ["RGB", "Grey"].includes(facts.space));
  const kept = facts.profile
    ? `Keep the embedded profile, ${facts.profile}`
    : facts.declared_srgb
      ? "Take it as sRGB, as the file declares"
      : `Use the standard one, ${facts.space === "Grey" ? "grey gamma 2.2" : "sRGB"}`;
  const find = (reference: string | null, among = fitting) =>
    among.find((p) => p.sha256 === reference) ??
    among.find(
      (p) =>
        p.origin === "standard" &&
        p.description.replace(/\W/g, "").toLowerCase().startsWith(String(reference)),
    );
  const known = find(source);
  // Nothing is assigned before a profile is chosen.
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Question job={job} fitting={fitting} />
      {!facts.profile && !facts.declared_srgb && (
        <Sentence>
          <b>No profile is embedded.</b> The numbers have no defined colours: two systems will guess
          differently. Ask the sender, or choose the space in which it looks right.
        </Sentence>
      )}
      <RadioGroup
        aria-label="Source profile"
        value={source === null && !asking ? "keep" : "assign"}
        onChange={(e) => {
          setAsking(e.target.value === "assign");
          if (e.target.value === "keep" && source !== null) control.commit({ source: null });
        }}
      >
        <FormControlLabel
          sx={{ display: canKeep ? undefined : "none" }}
          value="keep"
          control={<Radio size="small" />}
          label={<Typography>{kept}</Typography>}
        />
        <FormControlLabel
          value="assign"
          control={<Radio size="small" />}
          label={<Typography>Assign another profile</Typography>}
        />
      </RadioGroup>
      {(source !== null || asking) && (
        <AssignPick
          label="Assigned profile"
          value={known?.sha256 ?? ""}
          prompt="choose a profile"
          fitting={fitting}
          space={space}
          onAssign={(sha) => control.commit({ source: sha })}
        />
      )}
      <Toggle
        label="Photographic negative"
        checked={negative}
        onChange={(next) => control.commit({ negative: next })}
        help="The artwork's own numbers are reversed before anything else, so that a scanned negative becomes a positive. Plates for negative film are reversed in the stage Deliver instead."
      />
      <Typography sx={{ mt: 1, mb: 0.25 }}>
        <Explained text="The RGB space that the artwork is brought into before it is corrected: relative colorimetric with black point compensation. House rules may set it.">
          Arrival space
        </Explained>
      </Typography>
      <Pick
        field
        label="Arrival space"
        value={arrival === null ? "" : (find(arrival, spaces)?.sha256 ?? "")}
        options={[["", "The artwork's own"], ...named(spaces)]}
        onChange={(next) => control.commit({ arrival: next || null })}
      />
      <Sentence>
        Assigning changes what the numbers mean and leaves the numbers alone, so the picture
        changes. Converting changes the numbers and keeps the appearance
        {arrival === null
          ? "; that is what the stages below do."
          : ", but colours outside the new space are cut off for good."}
      </Sentence>
      <Vivid {...props} />
      <ColourTables {...props} side="before" />
    </>
  );
}
