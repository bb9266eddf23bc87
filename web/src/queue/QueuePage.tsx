import { Box, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient, type UseQueryResult } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type QueueEntry } from "../api";
import { keys } from "../queries/keys";
import { queueQuery } from "../queries/queue";
import { Shell } from "../shell";
import { Notice, whenEmpty } from "../ui";
import { list } from "../ui/cells";
import { type Act, QueueRow } from "./QueueRow";
import { RecordPanel } from "./RecordPanel";

const key = (e: QueueEntry) => `${e.kind}-${e.id}`;

/** All long work: under way in the order it is taken, and the record of what has ended. */
export function QueuePage() {
  const client = useQueryClient();
  const under = useQuery(queueQuery(false));
  const ended = useQuery(queueQuery(true));
  const [chosen, setChosen] = useState<string | null>(null);
  const refresh = () => client.invalidateQueries({ queryKey: keys.queue });
  const act = useMutation({
    mutationFn: ({ e, name }: { e: QueueEntry; name: Act }) =>
      ask(
        api.POST("/api/queue/{kind}/{id}/{act}", {
          params: { path: { kind: e.kind, id: String(e.id), act: name } },
        } as never),
      ),
    onSettled: refresh,
  });
  const put = useMutation({
    mutationFn: ({ e, priority }: { e: QueueEntry; priority: number }) =>
      ask(
        api.PUT("/api/queue/{kind}/{id}/priority", {
          params: { path: { kind: e.kind, id: e.id } },
          body: { priority },
        }),
      ),
    onSettled: refresh,
  });
  const error = under.error ?? ended.error ?? act.error ?? put.error;
  const table = (
    label: string,
    asked: UseQueryResult<QueueEntry[]>,
    columns: string[],
    empty: string,
    rows = asked.data ?? [],
  ) => (
    <Box sx={{ mb: 3 }}>
      <Typography variant="h1" component="h2" sx={{ mb: 1 }}>
        {label}{" "}
        <Box
          component="span"
          data-explained="in_queue"
          sx={{ fontWeight: 450, color: "text.secondary", fontSize: 14 }}
        >
          {asked.data?.length}
        </Box>
      </Typography>
      {rows.length === 0 ? (
        <Typography color="text.secondary">{whenEmpty(asked, empty)}</Typography>
      ) : (
        <Box component="table" aria-label={label} sx={list}>
          <thead>
            <tr>
              {columns.map((c) => (
                <th key={c}>{c}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((e) => (
              <QueueRow
                key={key(e)}
                entry={e}
                chosen={key(e) === chosen}
                onChoose={() => setChosen(key(e) === chosen ? null : key(e))}
                onAct={(name) => act.mutate({ e, name })}
                onPriority={(priority) => put.mutate({ e, priority })}
              />
            ))}
          </tbody>
        </Box>
      )}
    </Box>
  );
  const record = [...(under.data ?? []), ...(ended.data ?? [])].find((e) => key(e) === chosen);
  return (
    <Shell detail="Urgent work first, then in the order it came.">
      {error && (
        <Notice
          problem={error}
          onDismiss={() => {
            act.reset();
            put.reset();
          }}
        />
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: record ? "minmax(0, 1fr) 400px" : "minmax(0, 1fr)",
          height: "100%",
        }}
      >
        <Box sx={{ overflow: "auto", p: 2.5 }}>
          {table(
            "Under way",
            under,
            ["Work", "What", "Priority", "State", ""],
            "Nothing is under way. Deliveries, policy runs, prints and files of watched folders appear here.",
          )}
          {table("Ended", ended, ["Work", "What", "When", "State", ""], "Nothing has ended yet.")}
        </Box>
        {record && <RecordPanel key={chosen} entry={record} />}
      </Box>
    </Shell>
  );
}
