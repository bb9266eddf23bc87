import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type DragEvent, useCallback, useEffect, useRef, useState } from "react";

import {
  api,
  ask,
  type BuildReport,
  type Condition,
  type ConditionChange,
  type Profile,
} from "../api";
import { conditionsQuery, profilesQuery, proposalQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { uploadCondition, uploadProfile } from "../queries/upload";
import { type Named, Notice, ownProfile, Pick } from "../ui";
import { FileInput } from "../ui/FileInput";
import { type Asked, BuildProfile, BuiltFit } from "./BuildProfile";
import { ConditionForm } from "./ConditionForm";
import { Contradicted } from "./Contradicted";
import { Reading } from "./Reading";
import { inkNames } from "./words";

interface Props {
  /** A file that was dropped already. */
  file?: File | undefined;
  /** A profile of the library that was chosen already. */
  from?: Profile | undefined;
  onMade: (made: Condition) => void;
  onClose: () => void;
}

const isConditionFile = (file: File) => /\.json$/i.test(file.name);
const isMeasurements = (file: File) => /\.(txt|cgats|cie|ti3|it8)$/i.test(file.name);

/** Profiles that print, one's own before those that come with Plinto and the spaces of screens. */
const byShelf = (profiles: Profile[]) => {
  const shelf = (of: (p: Profile) => boolean): Named =>
    profiles
      .filter((p) => p.parts.includes("destination") && of(p))
      .map((p) => [String(p.id), `${p.description}, ${p.colour_space}`]);
  return [
    ["Your own", shelf(ownProfile)],
    ["With Plinto", shelf((p) => p.origin === "shipped")],
    ["Screens and the web", shelf((p) => p.origin === "standard" && p.colour_space === "RGB")],
  ] as const;
};

/** From a received profile to a condition: drop it, read what it reaches, keep. */
export function NewCondition({ file, from, onMade, onClose }: Props) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [measured, setMeasured] = useState<File | null>(file && isMeasurements(file) ? file : null);
  const [built, setBuilt] = useState<{ profile: Profile; report: BuildReport } | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const conditions = useQuery(conditionsQuery);
  const done = async (made: Condition) => {
    await client.invalidateQueries({ queryKey: keys.conditions });
    onMade(made);
  };
  const receive = useMutation({
    mutationFn: async (given: File): Promise<Profile | null> => {
      if (!isConditionFile(given)) return uploadProfile(given, "destination");
      await done(await uploadCondition(given));
      return null;
    },
    onSuccess: () => client.invalidateQueries({ queryKey: keys.profiles, exact: true }),
  });
  const { mutate } = receive;
  const begun = useRef(false);
  useEffect(() => {
    if (file && !isMeasurements(file) && !begun.current) {
      begun.current = true;
      mutate(file);
    }
  }, [file, mutate]);
  const [chosen, setChosen] = useState<Profile | null>(from ?? null);
  const profiles = useQuery(profilesQuery);
  const profile = chosen ?? built?.profile ?? receive.data ?? null;
  const proposal = useQuery({ ...proposalQuery(profile?.id ?? 0), enabled: profile !== null });
  const onBuilt = useCallback(
    (made: Profile, report: BuildReport, under: Asked) => {
      setBuilt({ profile: made, report });
      setAsked(under);
      void client.invalidateQueries({ queryKey: keys.profiles, exact: true });
    },
    [client],
  );
  const keep = useMutation({
    mutationFn: ({ id, condition }: { id: number; condition: ConditionChange }) =>
      ask(api.POST("/api/conditions", { body: { profile: id, condition } })),
    onSuccess: done,
  });
  const take = (files: File[]) => {
    const [first] = files;
    if (!first) return;
    keep.reset();
    setBuilt(null);
    setAsked(null);
    setChosen(null);
    if (isMeasurements(first)) {
      receive.reset();
      setMeasured(first);
    } else {
      setMeasured(null);
      mutate(first);
    }
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    event.stopPropagation();
    setOver(false);
    take([...event.dataTransfer.files]);
  };
  const same = profile
    ? (conditions.data ?? []).filter((c) => c.profile.sha256 === profile.sha256)
    : [];
  return (
    <Box
      component="section"
      role="region"
      aria-label="New condition"
      sx={{ minWidth: 0 }}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <FileInput
        ref={input}
        label="Profile of a condition"
        accept=".icc,.icm,.json,.txt,.cgats,.cie,.ti3,.it8"
        onFiles={take}
      />
      {receive.error && <Notice problem={receive.error} />}
      {receive.isPending && (
        <Box sx={{ maxWidth: 420, py: 2 }}>
          <Typography>Reading {receive.variables.name}…</Typography>
          <LinearProgress aria-label="Reading the file" />
        </Box>
      )}
      {measured && !built && (
        <BuildProfile
          key={measured.name}
          file={measured}
          begin={asked}
          onBuilt={onBuilt}
          onClose={() => setMeasured(null)}
        />
      )}
      {!profile && !measured && !receive.isPending && (
        <Box
          sx={{
            border: "2px dashed",
            borderColor: over ? "text.primary" : "text.secondary",
            p: 4,
            textAlign: "center",
          }}
        >
          <Typography sx={{ fontWeight: 700 }}>Drop the profile of your press here</Typography>
          <Typography sx={{ mt: 0.5, mb: 1.5 }}>
            An ICC output profile for CMYK, one ink or RGB, measurements in CGATS text, or a
            condition that was exported as a file. What a profile reaches is read from its own
            tables.
          </Typography>
          <Box sx={{ display: "flex", gap: 1, justifyContent: "center" }}>
            <Button variant="contained" onClick={() => input.current?.click()}>
              Choose a file…
            </Button>
            <Button onClick={onClose}>Close</Button>
          </Box>
          <Box sx={{ maxWidth: 340, mx: "auto", mt: 2, textAlign: "left" }}>
            <Typography component="span" sx={{ mr: 1 }}>
              Or from the library:
            </Typography>
            <Pick
              label="Profile of the library"
              value=""
              prompt={profiles.isPending ? "Reading the library…" : "Choose…"}
              options={[]}
              groups={byShelf(profiles.data ?? [])}
              onChange={(id) => setChosen(profiles.data?.find((p) => String(p.id) === id) ?? null)}
            />
            {profiles.error && (
              <Notice problem={profiles.error} onRetry={() => void profiles.refetch()} />
            )}
          </Box>
        </Box>
      )}
      {profile && (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: "minmax(0, 1.35fr) minmax(290px, 1fr)",
            gap: 3,
          }}
        >
          <Box sx={{ minWidth: 0 }}>
            <Typography variant="h2">{profile.description}</Typography>
            <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
              {profile.colour_space} {profile.origin === "standard" ? "space" : "output profile"}
              {profile.facts
                ? `, version ${profile.facts.version}${profile.facts.created ? `, of ${profile.facts.created}` : ""}`
                : ""}
            </Typography>
            {same.length > 0 && (
              <Typography role="status" sx={{ mb: 1, fontWeight: 650 }}>
                This very profile is already that of {same.map((c) => c.name).join(", ")}. A second
                condition should differ in medium, rules or prices.
              </Typography>
            )}
            {built && <BuiltFit report={built.report} />}
            {built && (
              <Contradicted
                report={built.report}
                onAgain={(useAll) => {
                  setAsked(asked && { ...asked, readings: useAll ? "all" : "fitting" });
                  setBuilt(null);
                }}
              />
            )}
            {proposal.isPending && <Typography>Reading its tables…</Typography>}
            {proposal.error && (
              <Notice problem={proposal.error} onRetry={() => void proposal.refetch()} />
            )}
            {proposal.data && <Reading proposal={proposal.data} />}
          </Box>
          {proposal.data ? (
            <Box>
              <ConditionForm
                key={profile.id}
                start={proposal.data.condition}
                reasons={proposal.data.reasons}
                inks={inkNames(profile)}
                keep="Keep the condition"
                busy={keep.isPending}
                problem={keep.error}
                onKeep={(condition) => keep.mutateAsync({ id: profile.id, condition })}
                onClose={onClose}
                closeLabel="Leave it"
              />
            </Box>
          ) : (
            <Box />
          )}
        </Box>
      )}
    </Box>
  );
}
