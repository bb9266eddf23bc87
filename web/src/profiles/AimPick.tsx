import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type KeptAim, type Profile } from "../api";
import { keys } from "../queries/keys";
import { aimsQuery } from "../queries/profiles";
import { Explained, Notice, Pick, RemoveButton } from "../ui";
import { AimSheet } from "./AimSheet";

interface Props {
  /** "kept:3" or "profile:7", "" for none. */
  value: string;
  /** What can be an aim beside kept numbers. */
  profiles: Profile[];
  onChange: (aim: string) => void;
}

/** What an examination judges by: kept numbers, or another profile; made, changed, taken out here. */
export function AimPick({ value, profiles, onChange }: Props) {
  const client = useQueryClient();
  const aims = useQuery(aimsQuery);
  const [sheet, setSheet] = useState<KeptAim | "new" | null>(null);
  const chosen = aims.data?.find((a) => `kept:${a.id}` === value);
  const refresh = () => client.invalidateQueries({ queryKey: keys.aims });
  const at = { params: { path: { id: chosen?.id ?? 0 } } };
  const copy = useMutation({
    mutationFn: () => ask(api.POST("/api/aims/{id}/copy", at)),
    onSuccess: async (made) => {
      await refresh();
      onChange(`kept:${made.id}`);
    },
  });
  return (
    <Box
      role="group"
      aria-label="Aim"
      sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1 }}
    >
      <Typography>
        <Explained text="Paper, solids, overprints and tone values are compared with numbers that you keep, or with another profile, such as that of a standard condition.">
          Aim
        </Explained>
      </Typography>
      <Pick
        label="Aim"
        width={240}
        value={value}
        options={{
          "": "none",
          ...Object.fromEntries((aims.data ?? []).map((a) => [`kept:${a.id}`, a.name])),
          ...Object.fromEntries(
            profiles.map((p) => [`profile:${p.id}`, `${p.description} (profile)`]),
          ),
        }}
        onChange={onChange}
      />
      <Button onClick={() => setSheet("new")}>New aim…</Button>
      {chosen && (
        <>
          <Button onClick={() => setSheet(chosen)}>Change…</Button>
          <Button disabled={copy.isPending} onClick={() => copy.mutate()}>
            Copy
          </Button>
          <Button component="a" href={`/api/aims/${chosen.id}/file`} download>
            Aim as a file
          </Button>
          <RemoveButton
            label="Remove aim"
            name={chosen.name}
            remove={() => ask(api.DELETE("/api/aims/{id}", at))}
            restore={() => ask(api.POST("/api/aims/{id}/restore", at))}
            onDone={async () => {
              onChange("");
              await refresh();
            }}
          />
        </>
      )}
      {copy.error && <Notice problem={copy.error} onDismiss={() => copy.reset()} />}
      {aims.error && <Notice problem={aims.error} onRetry={() => void aims.refetch()} />}
      {sheet !== null && (
        <AimSheet
          kept={sheet === "new" ? null : sheet}
          onClose={() => {
            setSheet(null);
            void refresh();
          }}
          onKept={async (made) => {
            await refresh();
            setSheet(null);
            onChange(`kept:${made.id}`);
          }}
        />
      )}
    </Box>
  );
}
