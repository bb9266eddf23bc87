import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import type { Medium } from "../api";
import { keys } from "../queries/keys";
import { documentsQuery } from "../queries/policies";
import { queueQuery } from "../queries/queue";
import { uploadDocument } from "../queries/upload";
import { type Printable, Sending } from "../queue";
import { type Named, Notice, Pick, whenEmpty } from "../ui";
import { FileInput } from "../ui/FileInput";

/** Sends a document through the medium's policy, or what is finished as it is. */
export function SendPanel({ medium, onClose }: { medium: Medium; onClose: () => void }) {
  const client = useQueryClient();
  const documents = useQuery(documentsQuery);
  const ended = useQuery(queueQuery(true));
  const finished = (kind: string, as: keyof Printable): Named =>
    (ended.data ?? [])
      .filter((e) => e.kind === kind && e.has_file)
      .map((e) => [`${as}-${e.id}`, e.file_name]);
  const groups = [
    ["Documents", (documents.data ?? []).map((d) => [`document-${d.id}`, d.file_name])],
    ["Made by policies", finished("policy", "result")],
    ["Delivered", finished("delivery", "delivery")],
  ] as const satisfies [string, Named][];
  const options = groups.flatMap(([, named]) => named);
  const [picked, setPicked] = useState("");
  const [what, file] = options.find(([key]) => key === picked) ?? options[0] ?? ["", ""];
  const [kind, id] = what.split("-");
  const input = useRef<HTMLInputElement>(null);
  const take = useMutation({
    mutationFn: (file: File) => uploadDocument(file, () => undefined),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: keys.documents });
      setPicked(`document-${made.id}`);
    },
  });
  return (
    <Box
      role="region"
      aria-label="Send to the printer"
      sx={{ border: 1, borderColor: "text.primary", bgcolor: "background.paper", p: 1.5, mt: 1 }}
    >
      {take.error && <Notice problem={take.error} onDismiss={() => take.reset()} />}
      <FileInput
        ref={input}
        label="File to print"
        accept=".pdf,.tif,.tiff,.png,.jpg,.jpeg,.psd"
        onFiles={([f]) => {
          if (f) take.mutate(f);
        }}
      />
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, flexWrap: "wrap" }}>
        <Pick
          label="What to print"
          width={250}
          value={what}
          options={
            what ? [] : [["", whenEmpty(documents, whenEmpty(ended, "nothing to print yet"))]]
          }
          groups={groups}
          onChange={setPicked}
        />
        <Button onClick={() => input.current?.click()}>Take in a file…</Button>
      </Box>
      <Typography role="note" sx={{ my: 0.75 }}>
        {kind === "document"
          ? medium.policy_name
            ? `Version ${medium.policy_version} of ${medium.policy_name} runs on ${file} as it is printed.`
            : `${file} goes as it is: this medium has no policy.`
          : what && `${file} goes as it is: its colours are made already.`}
      </Typography>
      <Sending
        medium={medium.id}
        what={what ? { [String(kind)]: Number(id) } : null}
        onClose={onClose}
      />
      {take.isPending && <LinearProgress aria-label="Taking in the file" sx={{ mt: 1 }} />}
    </Box>
  );
}
