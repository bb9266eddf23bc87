import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";

import { api, ask } from "../api";
import { keys } from "../queries/keys";
import { documentsQuery } from "../queries/policies";
import { queueQuery } from "../queries/queue";
import { uploadDocument } from "../queries/upload";
import { Notice, Pick, whenEmpty } from "../ui";
import { NumberField } from "../ui/controls";
import { FileInput } from "../ui/FileInput";

const PRIORITIES = { "1": "urgent", "0": "usual", "-1": "less urgent" } as const;

/** Sends a document through the medium's policy, or a finished delivery as it is. */
export function SendPanel({ medium, onClose }: { medium: number; onClose: () => void }) {
  const client = useQueryClient();
  const documents = useQuery(documentsQuery);
  const ended = useQuery(queueQuery(true));
  const deliveries = (ended.data ?? []).filter((e) => e.kind === "delivery" && e.has_file);
  const options: Record<string, string> = {
    ...Object.fromEntries((documents.data ?? []).map((d) => [`document-${d.id}`, d.file_name])),
    ...Object.fromEntries(deliveries.map((e) => [`delivery-${e.id}`, `delivery ${e.file_name}`])),
  };
  const [picked, setPicked] = useState("");
  const what = picked in options ? picked : (Object.keys(options)[0] ?? "");
  const [copies, setCopies] = useState(1);
  const [priority, setPriority] = useState<keyof typeof PRIORITIES>("0");
  const input = useRef<HTMLInputElement>(null);
  const take = useMutation({
    mutationFn: (file: File) => uploadDocument(file, () => undefined),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: keys.documents });
      setPicked(`document-${made.id}`);
    },
  });
  const send = useMutation({
    mutationFn: (held: boolean) => {
      const [kind, id] = what.split("-");
      return ask(
        api.POST("/api/prints", {
          body: {
            medium,
            document: kind === "document" ? Number(id) : null,
            delivery: kind === "delivery" ? Number(id) : null,
            copies,
            priority: Number(priority),
            held,
          },
        }),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: keys.queue }),
  });
  const error = send.error ?? take.error;
  return (
    <Box
      role="region"
      aria-label="Send to the printer"
      sx={{ border: 1, borderColor: "text.primary", bgcolor: "background.paper", p: 1.5, mt: 1 }}
    >
      {error && (
        <Notice
          problem={error}
          onDismiss={() => {
            send.reset();
            take.reset();
          }}
        />
      )}
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
            what ? options : { "": whenEmpty(documents, whenEmpty(ended, "nothing to print yet")) }
          }
          onChange={setPicked}
        />
        <Button onClick={() => input.current?.click()}>Take in a file…</Button>
        <Box sx={{ width: 190 }}>
          <NumberField
            label="Copies"
            help="Ink and medium are counted for all of them."
            value={copies}
            unit=""
            min={1}
            max={100_000}
            onRest={(v) => setCopies(Math.round(v ?? 1))}
          />
        </Box>
        <Pick
          label="Priority"
          width={100}
          value={priority}
          options={PRIORITIES}
          onChange={setPriority}
        />
        <Button
          variant="contained"
          disabled={!what || send.isPending}
          onClick={() => send.mutate(false)}
        >
          Print
        </Button>
        <Button disabled={!what || send.isPending} onClick={() => send.mutate(true)}>
          Queue it held
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Box>
      {take.isPending && <LinearProgress aria-label="Taking in the file" sx={{ mt: 1 }} />}
      {send.data && (
        <Typography role="status" sx={{ mt: 1 }}>
          <b>{send.data.title}</b> is in the queue of {send.data.detail}.{" "}
          <Link to="/queue" style={{ color: "inherit" }}>
            See the queue
          </Link>
        </Typography>
      )}
    </Box>
  );
}
