import { Box, Button } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import type { Profile } from "../api";
import { conditionsQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { uploadProfile } from "../queries/upload";
import { type Named, Notice, Pick } from "../ui";
import { FileInput } from "../ui/FileInput";

export const named = (among: Profile[]): Named =>
  among.map((p) => [p.sha256, p.description + (p.origin === "embedded" ? " (from artwork)" : "")]);

interface Props {
  label: string;
  value: string;
  prompt: string;
  /** Profiles that can say what the artwork's numbers mean. */
  fitting: Profile[];
  /** The artwork's colour space. */
  space: string;
  onAssign: (sha: string) => void;
}

/** Which profile the numbers are meant in: likely ones first, or one that is received on the spot. */
export function AssignPick({ label, value, prompt, fitting, space, onAssign }: Props) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const conditions = useQuery(conditionsQuery);
  const presses = new Set((conditions.data ?? []).map((c) => c.profile.sha256));
  // Numbers of inks were made for a press; numbers of light for one of the spaces of screens and cameras.
  const likely = (p: Profile) => p.origin === "standard" || presses.has(p.sha256);
  const receive = useMutation({
    mutationFn: async (file: File) => {
      const made = await uploadProfile(file, "source");
      await client.invalidateQueries({ queryKey: keys.profiles, exact: true });
      if (made.colour_space !== space)
        throw new Error(
          `${made.description} is for ${made.colour_space}, and the artwork is ${space}. It is kept in the library.`,
        );
      return made;
    },
    onSuccess: (made) => onAssign(made.sha256),
  });
  return (
    <Box sx={{ mt: 0.75 }}>
      <Pick
        field
        label={label}
        value={value}
        prompt={prompt}
        options={[]}
        groups={[
          ["Likely", named(fitting.filter(likely))],
          ["Others", named(fitting.filter((p) => !likely(p)))],
        ]}
        onChange={onAssign}
      />
      <FileInput
        ref={input}
        label="Profile to assign"
        accept=".icc,.icm"
        onFiles={([file]) => file && receive.mutate(file)}
      />
      <Button sx={{ mt: 0.5 }} disabled={receive.isPending} onClick={() => input.current?.click()}>
        {receive.isPending ? "Reading it…" : "From a file…"}
      </Button>
      {receive.error && <Notice problem={receive.error} onDismiss={() => receive.reset()} />}
    </Box>
  );
}
