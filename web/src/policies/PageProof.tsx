import { Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, ask } from "../api";
import { conditionsQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { conditionGroups, Explained, Pick } from "../ui";

/** A proof print of the page as it prints under the policy. */
export function PageProof({ run, page }: { run: number; page: number }) {
  const client = useQueryClient();
  const conditions = useQuery(conditionsQuery);
  const [chosen, setChosen] = useState("");
  const printers = (conditions.data ?? []).filter(
    (c) => ["CMYK", "RGB"].includes(c.profile.colour_space) && c.process !== "display",
  );
  const proofer =
    printers.find((c) => String(c.id) === chosen) ??
    printers.find((c) => c.process === "inkjet") ??
    printers[0];
  const start = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/policy-runs/{id}/proofs", {
          params: { path: { id: run } },
          body: { proofer: proofer?.id ?? 0, page },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.proofs }),
  });
  if (!proofer) return null;
  return (
    <>
      <Typography sx={{ ml: "auto" }}>
        <Explained text="Shows the page as the press prints it, the press's paper included, on another printer, with a strip to be read.">
          Proof on
        </Explained>
      </Typography>
      <Pick
        label="Proof on"
        width={150}
        value={String(proofer.id)}
        options={[]}
        groups={conditionGroups(printers)}
        onChange={setChosen}
      />
      <Button disabled={start.isPending} onClick={() => start.mutate()}>
        Proof this page
      </Button>
      {start.data && <Link to={`/proofs/${start.data.id}`}>See it</Link>}
      {start.error && (
        <Typography role="alert" sx={{ fontWeight: 650 }}>
          {start.error.message}
        </Typography>
      )}
    </>
  );
}
