import { Box, Button, InputBase, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type InkRules } from "../../api";
import { inkRulesQuery } from "../../jobs/queries";
import { Choice, Section } from "../controls";

/** Ink rules under a name: kept, taken, deleted. */
export function NamedRules({ rules, onTake }: { rules: InkRules; onTake: (rules: InkRules) => void }) {
  const client = useQueryClient();
  const sets = useQuery(inkRulesQuery);
  const [name, setName] = useState(rules.name);
  const refresh = () => client.invalidateQueries({ queryKey: ["ink-rules"] });
  const keep = useMutation({
    mutationFn: () => ask(api.POST("/api/ink-rules", { body: { ...rules, name: name.trim() } })),
    onSuccess: async (made) => {
      await refresh();
      onTake(made.rules);
    },
  });
  const drop = useMutation({
    mutationFn: (id: number) => ask(api.DELETE("/api/ink-rules/{id}", { params: { path: { id } } })),
    onSuccess: refresh,
  });
  const chosen = sets.data?.find((s) => s.name === rules.name);
  const options: Record<string, string> = { "": "Not kept under a name", ...Object.fromEntries(sets.data?.map((s) => [String(s.id), s.name]) ?? []) };
  return (
    <Section title="Named ink rules" fact={chosen?.name ?? "none"}>
      <Choice label="Take" value={chosen ? String(chosen.id) : ""} options={options} onChange={(id) => { const set = sets.data?.find((s) => String(s.id) === id); if (set) { setName(set.name); onTake(set.rules); } }} />
      <Box sx={{ display: "flex", gap: 0.75, mt: 0.75 }}>
        <InputBase value={name} placeholder="Name" inputProps={{ "aria-label": "Name of the ink rules", maxLength: 200 }} onChange={(e) => setName(e.target.value)} sx={{ flex: 1, fontSize: 13, border: 1, borderColor: "text.secondary", bgcolor: "background.paper", "& input": { px: 0.75, py: 0.25 } }} />
        <Button disabled={!name.trim() || keep.isPending} onClick={() => keep.mutate()}>Keep</Button>
        {chosen && <Button onClick={() => drop.mutate(chosen.id)}>Delete</Button>}
      </Box>
      {(keep.error ?? drop.error) && <Typography role="alert" sx={{ fontWeight: 650, mt: 0.5 }}>{(keep.error ?? drop.error)?.message}</Typography>}
    </Section>
  );
}
