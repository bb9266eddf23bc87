import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { api, ask, type Proof, type ProofReadingJudged, type ProofTolerances } from "../api";
import { conditionsQuery } from "../queries/conditions";
import { uploadReading } from "../queries/upload";
import { Notice, Pick, Toggle } from "../ui";
import { FileInput } from "../ui/FileInput";

interface Props {
  proof: Proof;
  tolerances: ProofTolerances;
  onRead: (reading: ProofReadingJudged) => unknown;
}

/** Read the strip: printed and read by the simulators, or from a measured file. */
export function Read({ proof, tolerances, onRead }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const [on, setOn] = useState(0);
  const [noise, setNoise] = useState(true);
  const conditions = useQuery(conditionsQuery);
  const path = { params: { path: { id: proof.id } } };
  const bench = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/proofs/{id}/readings", {
          ...path,
          body: { printed_on: on || null, noise, tolerances },
        }),
      ),
    onSuccess: onRead,
  });
  const file = useMutation({
    mutationFn: (given: File) => uploadReading(proof.id, given, tolerances),
    onSuccess: onRead,
  });
  const problem = bench.error ?? file.error;
  const shipped = (conditions.data ?? []).filter(
    (c) => c.profile.colour_space === "CMYK" && c.id !== proof.proofer,
  );
  return (
    <Box role="group" aria-label="Read the strip">
      <FileInput
        ref={input}
        label="Measured strip"
        accept=".txt,.cgats,.it8,.csv,.cxf,.xml"
        onFiles={([given]) => given && file.mutate(given)}
      />
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}>
        <Button disabled={file.isPending} onClick={() => input.current?.click()}>
          Readings from a file…
        </Button>
        {proof.bench && (
          <>
            <Typography>or on the bench, printed on</Typography>
            <Pick
              label="Printed on"
              width={170}
              value={String(on)}
              options={{
                "0": proof.proofer_name,
                ...Object.fromEntries(shipped.map((c) => [String(c.id), c.name])),
              }}
              onChange={(v) => setOn(Number(v))}
            />
            <Box sx={{ width: 176 }}>
              <Toggle
                label="with noise"
                help="The bench instrument reads with the small errors that instruments have; without them only the file and the press simulator are judged."
                checked={noise}
                onChange={setNoise}
              />
            </Box>
            <Button variant="contained" disabled={bench.isPending} onClick={() => bench.mutate()}>
              Print and read
            </Button>
          </>
        )}
      </Box>
      {problem && (
        <Notice
          problem={problem}
          onDismiss={() => {
            bench.reset();
            file.reset();
          }}
        />
      )}
    </Box>
  );
}
