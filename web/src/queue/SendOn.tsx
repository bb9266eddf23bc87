import { Box, Button, Dialog, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, ask, type Folder } from "../api";
import { foldersQuery } from "../queries/folders";
import { keys } from "../queries/keys";
import { printersQuery } from "../queries/printers";
import { Notice, Pick, whenEmpty } from "../ui";
import { NumberField } from "../ui/controls";

const PRIORITIES = { "1": "urgent", "0": "usual", "-1": "less urgent" } as const;

/** A file that is made; exactly one of these numbers. */
export interface Finished {
  delivery?: number;
  result?: number;
}

/** What is printed; exactly one of these numbers. */
export interface Printable extends Finished {
  document?: number;
}

interface SendingProps {
  medium: number | null;
  what: Printable | null;
  onClose: () => void;
}

/** How many, how urgent, now or held; then where it is. */
export function Sending({ medium, what, onClose }: SendingProps) {
  const client = useQueryClient();
  const [copies, setCopies] = useState(1);
  const [priority, setPriority] = useState<keyof typeof PRIORITIES>("0");
  const send = useMutation({
    mutationFn: (held: boolean) =>
      ask(
        api.POST("/api/prints", {
          body: { ...what, medium: medium ?? 0, copies, priority: Number(priority), held },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.queue }),
  });
  const disabled = medium === null || what === null || send.isPending;
  return (
    <>
      {send.error && <Notice problem={send.error} onDismiss={() => send.reset()} />}
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, flexWrap: "wrap" }}>
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
        <Button variant="contained" disabled={disabled} onClick={() => send.mutate(false)}>
          Print
        </Button>
        <Button disabled={disabled} onClick={() => send.mutate(true)}>
          Queue it held
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Box>
      {send.data && (
        <Typography role="status" sx={{ mt: 1 }}>
          <b>{send.data.title}</b> is in the queue of {send.data.detail}.{" "}
          <Link to="/queue" style={{ color: "inherit" }}>
            See the queue
          </Link>
        </Typography>
      )}
    </>
  );
}

/** A button that sends a finished file to a printer or into a watched folder, as it is. */
export function SendOn({ what, name }: { what: Finished; name: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Send it on…</Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        maxWidth="sm"
        fullWidth
        aria-labelledby="send-on"
      >
        <DialogTitle id="send-on" sx={{ fontSize: 15, fontWeight: 700, overflowWrap: "anywhere" }}>
          Send {name} on
        </DialogTitle>
        <DialogContent>
          {open && <Places what={what} onClose={() => setOpen(false)} />}
        </DialogContent>
      </Dialog>
    </>
  );
}

function Places({ what, onClose }: { what: Finished; onClose: () => void }) {
  const printers = useQuery(printersQuery);
  const folders = useQuery(foldersQuery);
  const [place, setPlace] = useState("");
  const media = (printers.data ?? []).flatMap((p) => p.media);
  const watched = (folders.data ?? []).filter((f) => f.active);
  const medium = media.find((m) => `medium-${m.id}` === place);
  const folder = watched.find((f) => `folder-${f.id}` === place);
  const nowhere = printers.data && folders.data && !media.length && !watched.length;
  return (
    <>
      {[printers, folders].map(
        (q, i) => q.error && <Notice key={i} problem={q.error} onRetry={() => void q.refetch()} />,
      )}
      <Typography component="label" htmlFor="send-on-place" sx={{ display: "block", mb: 0.25 }}>
        Where to
      </Typography>
      <Pick
        field
        id="send-on-place"
        label="Where to"
        value={place}
        prompt={whenEmpty(
          printers,
          whenEmpty(folders, nowhere ? "no printer has a medium yet" : "Choose…"),
        )}
        options={[]}
        groups={[
          ...(printers.data ?? []).map(
            (p) => [p.name, p.media.map((m) => [`medium-${m.id}`, m.name] as const)] as const,
          ),
          ["Watched folders", watched.map((f) => [`folder-${f.id}`, f.name] as const)] as const,
        ].filter(([, of]) => of.length)}
        onChange={setPlace}
      />
      <Typography color="text.secondary" sx={{ my: 1 }}>
        {folder
          ? `${folder.policy_name} runs on it there${folder.medium_name ? `, then it is printed: ${folder.medium_name}` : ""}.`
          : medium
            ? `It goes as it is; what ${medium.name} prints is ${medium.condition_name}.`
            : "To a printer it goes as it is: its colours are made already."}{" "}
        {nowhere && (
          <Link to="/printers" style={{ color: "inherit" }}>
            Set up a printer
          </Link>
        )}
      </Typography>
      {folder ? (
        <IntoFolder folder={folder} what={what} onClose={onClose} />
      ) : (
        <Sending medium={medium?.id ?? null} what={what} onClose={onClose} />
      )}
    </>
  );
}

function IntoFolder({
  folder,
  what,
  onClose,
}: {
  folder: Folder;
  what: Finished;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const put = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/folders/{id}/finished", { params: { path: { id: folder.id } }, body: what }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.folders }),
  });
  return (
    <>
      {put.error && <Notice problem={put.error} onDismiss={() => put.reset()} />}
      <Box sx={{ display: "flex", gap: 1.5 }}>
        <Button
          variant="contained"
          disabled={put.isPending || put.isSuccess}
          onClick={() => put.mutate()}
        >
          Put it into the folder
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Box>
      {put.isSuccess && (
        <Typography role="status" sx={{ mt: 1 }}>
          It lies in {folder.name}.{" "}
          <Link to="/folders" style={{ color: "inherit" }}>
            See the folder
          </Link>
        </Typography>
      )}
    </>
  );
}
