import { Box, Button, FormControlLabel, Radio, RadioGroup, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { api, ask, type Condition, onRevision } from "../api";
import { profilesQuery, usesQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { uploadProfile } from "../queries/upload";
import { Explained, Notice, Pick } from "../ui";
import { FileInput } from "../ui/FileInput";
import { number } from "../ui/numbers";

/** Another profile for a condition: what that changes, for what, and whether it follows. */
export function ReplaceProfile({
  condition,
  onDone,
}: {
  condition: Condition;
  onDone: (moved: number | null) => void;
}) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState("");
  const [carry, setCarry] = useState(false);
  const profiles = useQuery(profilesQuery);
  const uses = useQuery(usesQuery(condition.id));
  const receive = useMutation({
    mutationFn: (file: File) => uploadProfile(file, "destination"),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: keys.profiles, exact: true });
      setChosen(String(made.id));
    },
  });
  const change = useQuery({
    queryKey: [...keys.conditions, condition.id, "difference", chosen],
    queryFn: () =>
      ask(
        api.GET("/api/conditions/{id}/difference/{profile}", {
          params: { path: { id: condition.id, profile: Number(chosen) } },
        }),
      ),
    enabled: chosen !== "",
  });
  const replace = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/conditions/{id}/profile", {
          params: { path: { id: condition.id } },
          body: { profile: Number(chosen), carry },
          ...onRevision(condition.revision),
        }),
      ),
    onSuccess: async (done) => {
      await client.invalidateQueries();
      onDone(done.moved);
    },
  });
  const fitting = (profiles.data ?? []).filter(
    (p) =>
      p.parts.includes("destination") &&
      p.id !== condition.profile.id &&
      p.colour_space === condition.profile.colour_space,
  );
  const found = change.data;
  const error = receive.error ?? change.error ?? replace.error;
  return (
    <Box
      role="group"
      aria-label="Replace the profile"
      sx={{ border: 2, borderColor: "text.primary", p: 1.5, mt: 1.5 }}
    >
      <Typography sx={{ fontWeight: 700 }}>Replace the profile</Typography>
      {error && <Notice problem={error} />}
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Pick
          label="New profile"
          width="100%"
          value={chosen}
          options={{
            "": "choose…",
            ...Object.fromEntries(fitting.map((p) => [String(p.id), p.description])),
          }}
          onChange={setChosen}
        />
        <FileInput
          ref={input}
          label="File of the new profile"
          accept=".icc,.icm"
          onFiles={([file]) => {
            if (file) receive.mutate(file);
          }}
        />
        <Button disabled={receive.isPending} onClick={() => input.current?.click()}>
          From a file…
        </Button>
      </Box>
      {found && !found.comparable && (
        <Typography role="alert" sx={{ mt: 1, fontWeight: 650 }}>
          It is for other inks. Make a condition of its own of it.
        </Typography>
      )}
      {found?.comparable && (
        <Box sx={{ mt: 1 }}>
          <Typography>
            <Explained of="profile_change">Greys move by</Explained>{" "}
            <b>{number(found.greys_mean ?? 0)} ΔE00</b> in the mean, {number(found.greys_max ?? 0)}{" "}
            at most; total ink {found.tac?.map((t) => `${number(t)} %`).join(" becomes ")}.
          </Typography>
          <Typography variant="body2" sx={{ mt: 0.5 }} data-explained="profile_change">
            {Object.entries(found.solids ?? {})
              .map(([n, d]) => `${n} ${number(d)}`)
              .join("   ")}
          </Typography>
        </Box>
      )}
      {uses.data && (
        <Box sx={{ mt: 1 }}>
          {uses.data.length === 0 ? (
            <Typography>Nothing uses the condition yet.</Typography>
          ) : (
            <>
              <Typography>
                It is used by {uses.data.map((u) => `${u.kind} “${u.name}”`).join(", ")}.
              </Typography>
              <RadioGroup
                value={carry ? "new" : "former"}
                onChange={(_, v) => setCarry(v === "new")}
                aria-label="What happens to them"
              >
                <FormControlLabel
                  value="former"
                  control={<Radio size="small" />}
                  label={
                    <Typography>
                      Jobs and policies keep the former profile; media take the new one
                    </Typography>
                  }
                />
                <FormControlLabel
                  value="new"
                  control={<Radio size="small" />}
                  label={<Typography>All take the new one; each recipe can go back</Typography>}
                />
              </RadioGroup>
            </>
          )}
        </Box>
      )}
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Button
          variant="contained"
          disabled={!found?.comparable || replace.isPending}
          onClick={() => replace.mutate()}
        >
          Replace it
        </Button>
        <Button onClick={() => onDone(null)}>Close</Button>
      </Box>
    </Box>
  );
}
