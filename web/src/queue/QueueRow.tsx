import { Box, Button, LinearProgress } from "@mui/material";
import { Link } from "react-router";

import type { QueueEntry } from "../api";
import { Explained, Pick } from "../ui";
import { moment } from "../ui";
import { SendOn } from "./SendOn";
import { PRIORITY, stateFact } from "./words";

export type Act = "hold" | "release" | "retry" | "cancel";

interface Props {
  entry: QueueEntry;
  chosen: boolean;
  onChoose: () => void;
  onAct: (act: Act) => void;
  onPriority: (priority: number) => void;
}

/** One piece of work: what, where, how far, and what may be done to it. */
export function QueueRow({ entry: e, chosen, onChoose, onAct, onPriority }: Props) {
  const open = e.state === "waiting" || e.state === "held" || e.state === "running";
  const base = `/api/queue/${e.kind}/${e.id}`;
  return (
    <Box
      component="tr"
      data-state={e.state}
      aria-selected={chosen}
      tabIndex={0}
      onClick={onChoose}
      onKeyDown={(k) => {
        if (k.key === "Enter" && k.target === k.currentTarget) onChoose();
      }}
      sx={{
        cursor: "pointer",
        "&:focus-visible": { outlineOffset: "-2px" },
        ...(chosen && { bgcolor: "action.selected" }),
      }}
    >
      <td style={{ whiteSpace: "nowrap" }}>{e.kind_name}</td>
      <td style={{ overflowWrap: "anywhere" }}>
        <b>{e.title}</b>
        <br />
        <Box component="span" data-explained="copies" sx={{ color: "text.secondary" }}>
          {e.detail}
        </Box>
        {e.error && (
          <Box role="alert" sx={{ fontWeight: 650, maxWidth: 520 }}>
            {e.error}
          </Box>
        )}
      </td>
      <td style={{ whiteSpace: "nowrap" }}>
        {open && e.state !== "running" ? (
          <Pick
            label={`Priority of ${e.title}`}
            value={String(e.priority)}
            options={["1", "0", "-1"].map((p): [string, string] => [p, PRIORITY[p] ?? p])}
            onClick={(c) => c.stopPropagation()}
            onChange={(p) => onPriority(Number(p))}
          />
        ) : open ? (
          PRIORITY[String(e.priority)]
        ) : (
          <Explained of="when" focus={false}>
            {moment(e.finished ?? e.created)}
          </Explained>
        )}
      </td>
      <td style={{ width: 150, minWidth: 128 }}>
        <Explained of={e.state === "running" ? "progress" : "took"} focus={false}>
          {stateFact(e)}
        </Explained>
        {e.state === "running" && (
          <LinearProgress
            variant="determinate"
            value={e.progress * 100}
            aria-label={`Progress of ${e.title}`}
            sx={{ mt: 0.5 }}
          />
        )}
      </td>
      <td>
        <Box
          sx={{ display: "flex", gap: 0.5, justifyContent: "flex-end" }}
          onClick={(c) => c.stopPropagation()}
        >
          {e.state === "waiting" && <Button onClick={() => onAct("hold")}>Hold</Button>}
          {e.state === "held" && <Button onClick={() => onAct("release")}>Release</Button>}
          {open && <Button onClick={() => onAct("cancel")}>Cancel</Button>}
          {(e.state === "failed" || e.state === "cancelled") && (
            <Button onClick={() => onAct("retry")}>Try again</Button>
          )}
          {e.has_file && (e.kind === "policy" || e.kind === "delivery") && (
            <SendOn
              name={e.file_name}
              what={e.kind === "policy" ? { result: e.id } : { delivery: e.id }}
            />
          )}
          {e.has_file && (
            <Button component="a" href={`${base}/file`} download={e.file_name}>
              File
            </Button>
          )}
          {!open && (
            <Button component={Link} to={e.place}>
              Open
            </Button>
          )}
        </Box>
      </td>
    </Box>
  );
}
