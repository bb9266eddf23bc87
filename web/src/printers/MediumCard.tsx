import { Box, Button, Typography } from "@mui/material";
import { useState } from "react";

import { api, ask, type Medium } from "../api";
import { RemoveButton } from "../ui";
import { FactList } from "../ui/controls";
import { RouteLine } from "./RouteLine";
import { SendPanel } from "./SendPanel";
import { settingFacts } from "./words";

interface Props {
  medium: Medium;
  onEdit: () => void;
  onRefresh: () => unknown;
}

/** A medium: the way of its files with the guard's word, and what the operator sets. */
export function MediumCard({ medium, onEdit, onRefresh }: Props) {
  const path = { params: { path: { id: medium.id } } };
  const [sending, setSending] = useState(false);
  const refused = medium.judgements.some((j) => j.level === "refuse");
  const facts = settingFacts(medium.settings, medium.price);
  const half = Math.ceil(facts.length / 2);
  return (
    <Box
      component="section"
      aria-label={medium.name}
      sx={{ border: 1, borderColor: "divider", bgcolor: "background.paper", p: 2, mb: 2 }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
        <Typography sx={{ fontSize: 15, fontWeight: 700, flex: 1 }}>{medium.name}</Typography>
        <Button
          variant="contained"
          disabled={refused}
          aria-expanded={sending}
          onClick={() => setSending(!sending)}
        >
          Print on it…
        </Button>
        <Button onClick={onEdit}>Edit</Button>
        <RemoveButton
          label="Retire"
          name={medium.name}
          uses={() => ask(api.GET("/api/media/{id}/uses", path))}
          remove={() => ask(api.DELETE("/api/media/{id}", path))}
          restore={() => ask(api.POST("/api/media/{id}/restore", path))}
          onDone={onRefresh}
          kept="Files of these folders are still written out, but no longer printed."
        />
      </Box>
      <RouteLine
        duty={medium.duty}
        converts={medium.converts}
        policy={`${medium.policy_name}${medium.policy_retired ? " (retired)" : ""}`}
        end={medium.condition_name}
        judgements={medium.judgements}
        mirrors={medium.mirrors}
        settings={medium.settings}
      />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "1fr 1fr",
          columnGap: 5,
          mt: 1.5,
          maxWidth: 760,
          alignItems: "start",
        }}
      >
        <FactList facts={facts.slice(0, half)} />
        <FactList facts={facts.slice(half)} />
      </Box>
      {sending && <SendPanel medium={medium} onClose={() => setSending(false)} />}
    </Box>
  );
}
