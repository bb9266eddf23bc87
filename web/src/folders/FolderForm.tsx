import { Box, Button, TextField, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { type FolderChange, ProblemError } from "../api";
import { policiesQuery } from "../queries/policies";
import { printersQuery } from "../queries/printers";
import { ClashNotice, Explained, Notice, Pick } from "../ui";
import { Toggle } from "../ui/controls";

interface Props {
  start: FolderChange;
  error: Error | null;
  onKeep: (draft: FolderChange) => void;
  /** Keeps it over what somebody else changed meanwhile. */
  onAnyway: (draft: FolderChange) => void;
  onClose: () => void;
}

/** What a watched folder does with its files. */
export function FolderForm({ start, error, onKeep, onAnyway, onClose }: Props) {
  const [draft, setDraft] = useState(start);
  const policies = useQuery(policiesQuery);
  const printers = useQuery(printersQuery);
  const media = Object.fromEntries(
    (printers.data ?? []).flatMap((p) =>
      p.media.map((m) => [String(m.id), `${p.name}, ${m.name}`]),
    ),
  );
  const line = (label: string, help: string, control: React.ReactNode) => (
    <Box sx={{ display: "flex", alignItems: "center", minHeight: 34, gap: 1 }}>
      <Typography sx={{ width: 150 }}>
        <Explained text={help}>{label}</Explained>
      </Typography>
      {control}
    </Box>
  );
  return (
    <Box
      role="region"
      aria-label="Folder being edited"
      sx={{
        border: 2,
        borderColor: "text.primary",
        bgcolor: "background.paper",
        p: 2,
        mb: 2,
        maxWidth: 620,
      }}
    >
      {error &&
        (error instanceof ProblemError && error.problem.fields.length > 0 ? (
          <ClashNotice problem={error} onTheirs={onClose} onMine={() => onAnyway(draft)} />
        ) : (
          <Notice problem={error} />
        ))}
      {line(
        "Name",
        "Its folder on the server is named after it.",
        <TextField
          value={draft.name}
          onChange={(e) => setDraft({ ...draft, name: e.target.value })}
          slotProps={{ htmlInput: { maxLength: 100, "aria-label": "Name of the folder" } }}
          sx={{ flex: 1 }}
        />,
      )}
      {line(
        "Policy",
        "What every file goes through.",
        <Pick
          label="Policy of the folder"
          width="100%"
          value={String(draft.policy ?? "")}
          options={{
            "": "that of the medium",
            ...Object.fromEntries((policies.data ?? []).map((p) => [String(p.id), p.name])),
          }}
          onChange={(v) => setDraft({ ...draft, policy: v ? Number(v) : null })}
        />,
      )}
      {line(
        "On to",
        "Where files are printed after their policy; none writes them out only.",
        <Pick
          label="Medium of the folder"
          width="100%"
          value={String(draft.medium ?? "")}
          options={{ "": "no printer, written out only", ...media }}
          onChange={(v) => setDraft({ ...draft, medium: v ? Number(v) : null })}
        />,
      )}
      {line(
        "The same file again",
        "Byte for byte the same as one that came before.",
        <Pick
          label="The same file again"
          width="100%"
          value={draft.repeats ?? "skip"}
          options={{ skip: "is noted, not run again", run: "is run again" }}
          onChange={(repeats) => setDraft({ ...draft, repeats })}
        />,
      )}
      <Toggle
        label="Watched"
        checked={draft.active ?? true}
        onChange={(active) => setDraft({ ...draft, active })}
        help="Off: files stay where they are until it is watched again."
      />
      <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
        <Button
          variant="contained"
          disabled={draft.name.trim() === ""}
          onClick={() => onKeep(draft)}
        >
          Keep the folder
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Box>
    </Box>
  );
}
