import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, ask, type SwatchList } from "../api";
import { keys } from "../queries/keys";
import { swatchListQuery } from "../queries/paths";
import { Notice, Sheet, TextLine, useDraft } from "../ui";

interface Props {
  list: SwatchList;
  onClose: () => void;
  onCopied: (list: SwatchList) => void;
}

/** A list's name, its notes, more rows, and a copy; single rows are taken out in the table. */
export function ListEditor({ list, onClose, onCopied }: Props) {
  const client = useQueryClient();
  const whole = useQuery(swatchListQuery(list.id));
  const refresh = async () => {
    await client.invalidateQueries({ queryKey: keys.swatches });
    await client.invalidateQueries({ queryKey: [...keys.paths, "followed"] });
  };
  const change = useMutation({
    mutationFn: ({ name, add }: { name: string; add: string }) =>
      ask(
        api.PATCH("/api/swatch-lists/{id}", {
          params: { path: { id: list.id } },
          body: { ...(name !== list.name && { name }), ...(add.trim() && { add }) } as never,
        }),
      ),
    onSuccess: async () => {
      await refresh();
      onClose();
    },
  });
  const copy = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/swatch-lists/{id}/copy", { params: { path: { id: list.id } } })),
    onSuccess: async (made) => {
      await refresh();
      onClose();
      onCopied(made);
    },
  });
  const problem = change.error ?? copy.error;
  const form = useDraft(
    { name: list.name, add: "" },
    (draft) => change.mutateAsync(draft),
    ({ name }) => (name.trim() ? {} : { name: "A list needs a name." }),
  );
  return (
    <Sheet
      title={list.name}
      onClose={onClose}
      form={form}
      actions={
        <>
          <Box sx={{ flex: 1 }}>
            <Button disabled={copy.isPending} onClick={() => copy.mutate()}>
              Make a copy
            </Button>
          </Box>
          <Button onClick={onClose}>Close</Button>
          <Button type="submit" variant="contained" disabled={change.isPending || !form.changed}>
            Change it
          </Button>
        </>
      }
    >
      {problem && <Notice problem={problem} />}
      {whole.data?.notes.map((note) => (
        <Typography key={note.text} sx={{ mb: 1 }}>
          {note.text}
        </Typography>
      ))}
      <TextLine
        label="Name"
        value={form.draft.name}
        wrong={form.problems.name}
        onChange={(name) => form.put({ name })}
      />
      <TextLine
        label={`More colours in ${list.space}, a row a colour`}
        lines={4}
        value={form.draft.add}
        onChange={(add) => form.put({ add })}
      />
    </Sheet>
  );
}
