import { Box, Button, Popover, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import type { Use } from "../api";
import { offerUndo } from "./removals";

interface Props {
  /** What the button says, "Remove" or the like. */
  label: string;
  /** Name of the thing. */
  name: string;
  /** Asks what leans on it. */
  uses?: () => Promise<Use[]>;
  remove: () => Promise<unknown>;
  restore: () => Promise<unknown>;
  onDone: () => unknown;
  /** What happens to those that lean on it. */
  kept?: string;
  disabled?: boolean;
  /** Without a frame, where many stand in a list. */
  quiet?: boolean;
}

const KINDS: Record<string, string> = { medium: "medium", folder: "watched folder" };

/** Removes something after naming what leans on it; the removal can be undone. */
export function RemoveButton({
  label,
  name,
  uses,
  remove,
  restore,
  onDone,
  kept,
  disabled,
  quiet,
}: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const asked = useMutation({ mutationFn: () => uses?.() ?? Promise.resolve([]) });
  const gone = useMutation({
    mutationFn: remove,
    onSuccess: async () => {
      setAnchor(null);
      offerUndo({
        name,
        undo: async () => {
          await restore();
          await onDone();
        },
      });
      await onDone();
    },
  });
  const leaning = asked.data ?? [];
  return (
    <>
      <Button
        disabled={disabled}
        aria-haspopup="dialog"
        aria-label={quiet ? `${label} ${name}` : undefined}
        variant={quiet ? "text" : "outlined"}
        sx={
          quiet
            ? {
                px: 0.5,
                ml: -0.5,
                minHeight: 24,
                fontWeight: 450,
                color: "text.secondary",
                textDecoration: "underline",
              }
            : {}
        }
        onClick={(e) => {
          gone.reset();
          asked.mutate();
          setAnchor(e.currentTarget);
        }}
      >
        {label}
      </Button>
      <Popover
        open={Boolean(anchor)}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
      >
        <Box
          role="group"
          aria-label={`${label}: ${name}`}
          sx={{ p: 2, width: 340, border: 1, borderColor: "text.primary" }}
        >
          <Typography sx={{ fontWeight: 700 }}>
            {label}: {name}?
          </Typography>
          {asked.isPending && <Typography sx={{ mt: 1 }}>Looking up what uses it…</Typography>}
          {leaning.length > 0 && (
            <>
              <Typography sx={{ mt: 1 }}>Used by</Typography>
              <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
                {leaning.map((u) => (
                  <li key={`${u.kind}-${u.name}`}>
                    {KINDS[u.kind] ?? u.kind} <b>{u.name}</b>
                  </li>
                ))}
              </Box>
              {kept && <Typography sx={{ mt: 0.5 }}>{kept}</Typography>}
            </>
          )}
          {asked.data && leaning.length === 0 && (
            <Typography sx={{ mt: 1 }}>Nothing else uses it.</Typography>
          )}
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
            It can be undone right after.
          </Typography>
          {(gone.error ?? asked.error) && (
            <Typography role="alert" sx={{ mt: 1, fontWeight: 650 }}>
              {(gone.error ?? asked.error)?.message}
            </Typography>
          )}
          <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
            <Button
              variant="contained"
              autoFocus
              disabled={gone.isPending || asked.isPending}
              onClick={() => gone.mutate()}
            >
              {label}
            </Button>
            <Button onClick={() => setAnchor(null)}>Keep it</Button>
          </Box>
        </Box>
      </Popover>
    </>
  );
}
