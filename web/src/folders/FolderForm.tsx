import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";

import { type FolderChange } from "../api";
import { policiesQuery } from "../queries/policies";
import { printersQuery } from "../queries/printers";
import {
  type EditorProps,
  Explained,
  Form,
  FormEnd,
  FormLine,
  Pick,
  useDraft,
  useUnkept,
} from "../ui";
import { Toggle } from "../ui/controls";

const named = (draft: FolderChange) =>
  draft.name.trim() ? {} : { name: "A folder needs a name." };

/** What a watched folder does with its files. */
export function FolderForm({
  start,
  error,
  onKeep,
  onAnyway,
  onClose,
  leaving,
}: EditorProps<FolderChange>) {
  const form = useDraft<FolderChange>(start, onKeep, named);
  const unkept = useUnkept(form, "The folder", leaving);
  const { draft, put } = form;
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
    <Form
      of={form}
      label="Folder being edited"
      problem={error}
      onTheirs={onClose}
      onMine={onAnyway}
      sx={{
        border: 2,
        borderColor: "text.primary",
        bgcolor: "background.paper",
        p: 2,
        mb: 2,
        maxWidth: 620,
      }}
    >
      {line(
        "Name",
        "Its folder on the server is named after it.",
        <FormLine
          of={form}
          name="name"
          label="Name of the folder"
          unlabelled
          most={100}
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
          onChange={(v) => put({ policy: v ? Number(v) : null })}
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
          onChange={(v) => put({ medium: v ? Number(v) : null })}
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
          onChange={(repeats) => put({ repeats })}
        />,
      )}
      <Toggle
        label="Watched"
        checked={draft.active ?? true}
        onChange={(active) => put({ active })}
        help="Off: files stay where they are until it is watched again."
      />
      <FormEnd keep="Keep the folder" onClose={onClose} />
      {unkept}
    </Form>
  );
}
