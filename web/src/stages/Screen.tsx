import { Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import { profilesQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { uploadProfile } from "../queries/upload";
import { Choice, Section, Toggle } from "../ui/controls";
import { FileInput } from "../ui/FileInput";
import type { StageProps } from "./StageRail";

/** Which screen the pictures are made for, and what it cannot show. */
export function Screen({ look, onLook }: StageProps) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const profiles = useQuery(profilesQuery);
  const upload = useMutation({
    mutationFn: (file: File) => uploadProfile(file, "display"),
    onSuccess: async (profile) => {
      await client.invalidateQueries({ queryKey: keys.profiles });
      onLook({ ...look, display: profile.sha256 });
    },
  });
  const own =
    profiles.data?.filter((p) => p.origin !== "standard" && p.parts.includes("display")) ?? [];
  const options: Record<string, string> = {
    srgb: "sRGB",
    p3: "P3 D65",
    ...Object.fromEntries(own.map((p) => [p.sha256, p.description])),
  };
  return (
    <Section title="Screen" fact={options[look.display] ?? "own profile"}>
      <Choice
        label="Display profile"
        value={look.display}
        options={options}
        help="The pictures are made for this screen and carry its profile, so that a colour-managed browser shows them right."
        onChange={(display) => onLook({ ...look, display })}
      />
      <FileInput
        ref={input}
        label="Display profile file"
        accept=".icc,.icm"
        onFiles={([file]) => {
          if (file) upload.mutate(file);
        }}
      />
      <Button sx={{ mt: 0.75 }} disabled={upload.isPending} onClick={() => input.current?.click()}>
        Upload a display profile…
      </Button>
      {upload.error && (
        <Typography role="alert" sx={{ fontWeight: 650, mt: 0.5 }}>
          {upload.error.message}
        </Typography>
      )}
      <Toggle
        label="Mark what it cannot show"
        checked={look.screenVeilOn}
        onChange={(screenVeilOn) => onLook({ ...look, screenVeilOn })}
        help="Covers colours of the print that lie outside this screen's own gamut by more than 2 ΔE00: there the press view is duller than the print will be."
      />
    </Section>
  );
}
