import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, ask } from "../../api";
import { conditionsQuery } from "../../queries/conditions";
import { keys } from "../../queries/keys";
import { proofsQuery } from "../../queries/proofs";
import { conditionGroups, whenEmpty } from "../../ui";
import { Choice, Section } from "../../ui/controls";
import type { StageProps } from "../StageRail";

const INTENTS = {
  absolute: "with the press's paper",
  relative: "on the proofer's own paper",
} as const;

/** Show this press on another printer, with a strip to be read. */
export function ProofPrint({ job, destination, control }: StageProps) {
  const client = useQueryClient();
  const conditions = useQuery(conditionsQuery);
  const proofs = useQuery(proofsQuery);
  const [chosen, setChosen] = useState("");
  const [intent, setIntent] = useState<keyof typeof INTENTS>("absolute");
  const others = (conditions.data ?? []).filter(
    (c) =>
      c.id !== destination.condition.id &&
      ["CMYK", "RGB"].includes(c.profile.colour_space) &&
      c.process !== "display",
  );
  const proofer =
    others.find((c) => String(c.id) === chosen) ??
    others.find((c) => c.process === "inkjet") ??
    others[0];
  const made = (proofs.data ?? []).filter((p) => p.destination === destination.id);
  const start = useMutation({
    mutationFn: async () => {
      await control.settled();
      return ask(
        api.POST("/api/destinations/{id}/proofs", {
          params: { path: { id: destination.id } },
          body: { proofer: proofer?.id ?? 0, settings: { intent } as never },
        }),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: keys.proofs }),
  });
  const last = made[0];
  return (
    <Section
      title="Proof print"
      fact={made.length ? `${made.length} made` : whenEmpty(proofs, "none yet")}
    >
      {proofer ? (
        <>
          <Choice
            label="On"
            value={String(proofer.id)}
            options={[]}
            groups={conditionGroups(others)}
            onChange={setChosen}
            help="The printer that shows this press. Its own profile must hold for the paper that lies in it."
          />
          <Choice
            label="Shown"
            value={intent}
            options={INTENTS}
            onChange={(v) => setIntent(v)}
            help="Absolute colorimetric prints the colour of the press's paper as well, relative leaves it to the proofer's."
          />
          <Button
            fullWidth
            sx={{ mt: 0.75 }}
            disabled={start.isPending || job.question !== ""}
            onClick={() => start.mutate()}
          >
            Make a proof print
          </Button>
        </>
      ) : (
        <Typography>There is no other condition to proof on.</Typography>
      )}
      {start.error && (
        <Typography role="alert" sx={{ mt: 0.5, fontWeight: 650 }}>
          {start.error.message}
        </Typography>
      )}
      {last && (
        <Box sx={{ mt: 0.75 }}>
          <Link to={`/proofs/${last.id}`} style={{ color: "inherit" }}>
            {last.state === "done" ? "Read and judge the last proof" : "See the last proof"}
          </Link>
        </Box>
      )}
    </Section>
  );
}
