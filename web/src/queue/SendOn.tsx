import { Box, Button, Dialog, DialogContent, DialogTitle, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, ask } from "../api";
import { keys } from "../queries/keys";
import { printersQuery } from "../queries/printers";
import { Notice, Pick, whenEmpty } from "../ui";
import { NumberField } from "../ui/controls";

const PRIORITIES = { "1": "urgent", "0": "usual", "-1": "less urgent" } as const;

/** What is printed; exactly one of these numbers. */
export interface Printable {
  document?: number;
  delivery?: number;
  result?: number;
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

/** A button that sends a finished file to a printer, as it is. */
export function SendOn({ what, name }: { what: Printable; name: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Print it…</Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        maxWidth="sm"
        fullWidth
        aria-labelledby="send-on"
      >
        <DialogTitle id="send-on" sx={{ fontSize: 15, fontWeight: 700, overflowWrap: "anywhere" }}>
          Print {name}
        </DialogTitle>
        <DialogContent>
          {open && <Media what={what} onClose={() => setOpen(false)} />}
        </DialogContent>
      </Dialog>
    </>
  );
}

function Media({ what, onClose }: { what: Printable; onClose: () => void }) {
  const printers = useQuery(printersQuery);
  const [medium, setMedium] = useState("");
  const all = printers.data ?? [];
  const shown = all.flatMap((p) => p.media).find((m) => String(m.id) === medium);
  const none = whenEmpty(
    printers,
    all.every((p) => !p.media.length) ? "no printer has a medium yet" : "Choose…",
  );
  return (
    <>
      {printers.error && (
        <Notice problem={printers.error} onRetry={() => void printers.refetch()} />
      )}
      <Typography component="label" htmlFor="send-on-medium" sx={{ display: "block", mb: 0.25 }}>
        Printer and medium
      </Typography>
      <Pick
        field
        id="send-on-medium"
        label="Printer and medium"
        value={medium}
        prompt={none}
        options={[]}
        groups={all.map(
          (p) => [p.name, p.media.map((m) => [String(m.id), m.name] as const)] as const,
        )}
        onChange={setMedium}
      />
      <Typography color="text.secondary" sx={{ my: 1 }}>
        {shown
          ? `It goes as it is; what ${shown.name} prints is ${shown.condition_name}.`
          : "It goes as it is: its colours are made already."}{" "}
        {printers.data && all.every((p) => !p.media.length) && (
          <Link to="/printers" style={{ color: "inherit" }}>
            Set up a printer
          </Link>
        )}
      </Typography>
      <Sending medium={shown?.id ?? null} what={what} onClose={onClose} />
    </>
  );
}
