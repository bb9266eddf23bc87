import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, ask, type Proof, type ProofBrief, type ProofTolerances } from "../api";
import { conditionsQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { readingQuery, startingTolerancesQuery } from "../queries/proofs";
import { moment, Notice, number, Pick, RemoveButton } from "../ui";
import { Drift } from "./Drift";
import { Judged } from "./Judged";
import { Read } from "./Read";
import { OnePatch, Strip } from "./Strip";
import { Tolerances } from "./Tolerances";
import { verdict } from "./words";

const STATES: Record<string, string> = {
  waiting: "waiting for a worker",
  held: "held in the queue",
  running: "being made",
  failed: "failed",
  cancelled: "cancelled",
};

interface Props {
  proof: Proof;
  all: ProofBrief[];
}

/** One proof: its file, its strip, every reading judged, and the drift of its kind. */
export function OneProof({ proof, all }: Props) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [wanted, setWanted] = useState<number | null>(null);
  const [own, setOwn] = useState<ProofTolerances | null>(null);
  const [patch, setPatch] = useState<string | null>(null);
  const starting = useQuery(startingTolerancesQuery);
  const readings = proof.readings;
  const shown = readings.find((r) => r.id === wanted) ?? readings[0];
  const reading = useQuery({ ...readingQuery(shown?.id ?? 0), enabled: shown !== undefined });
  const judged = shown && reading.data?.id === shown.id ? reading.data : null;
  const tolerances = own ?? judged?.judgement.tolerances ?? starting.data?.[0]?.tolerances ?? null;
  const refresh = () => client.invalidateQueries({ queryKey: keys.proofs });
  const at = { params: { path: { id: proof.id } } };
  const stop = useMutation({
    mutationFn: () => ask(api.POST("/api/proofs/{id}/cancel", at)),
    onSuccess: refresh,
  });
  const anew = useMutation({
    mutationFn: (by: ProofTolerances) =>
      ask(
        api.POST("/api/proof-readings/{id}/judge", {
          params: { path: { id: shown?.id ?? 0 } },
          body: { tolerances: by },
        }),
      ),
    onSuccess: refresh,
  });
  const made = proof.made;
  const conditions = useQuery(conditionsQuery);
  const press = conditions.data?.find((c) => c.profile.sha256 === proof.press)?.profile.id;
  const proofer = conditions.data?.find((c) => c.id === proof.proofer)?.profile.id;
  const ids = press && proofer ? [press, proofer] : null;
  const open = proof.state !== "done";
  const missed = made?.patches.filter((p) => p.missed) ?? [];
  const alike = all.filter((p) => p.press === proof.press && p.proofer === proof.proofer);
  const one = made?.patches.find((p) => p.name === patch);
  return (
    <Box sx={{ p: 2.5, maxWidth: 980 }} aria-label={`Proof of ${proof.title}`} role="region">
      <Box sx={{ display: "flex", gap: 1, alignItems: "flex-start", flexWrap: "wrap" }}>
        <Box sx={{ flex: 1, minWidth: 260 }}>
          <Typography variant="h1" sx={{ fontSize: 19, fontWeight: 700 }}>
            {proof.press_name} on {proof.proofer_name}
          </Typography>
          <Typography color="text.secondary" sx={{ overflowWrap: "anywhere" }}>
            {proof.job && proof.destination ? (
              <Link
                to={`/jobs/${proof.job}/${proof.destination}/deliver`}
                style={{ color: "inherit" }}
              >
                {proof.title}
              </Link>
            ) : (
              proof.title
            )}
            , {moment(proof.created)}
          </Typography>
        </Box>
        {!open && (
          <>
            <Button component="a" href={`/api/proofs/${proof.id}/file`} download={proof.file_name}>
              Download
            </Button>
            <Button component="a" href={`/api/proofs/${proof.id}/ticket.pdf`} download>
              Ticket
            </Button>
          </>
        )}
        {(proof.state === "waiting" || proof.state === "running") && (
          <Button onClick={() => stop.mutate()}>Cancel</Button>
        )}
        <RemoveButton
          label="Remove"
          name={`the proof of ${proof.title}`}
          remove={() => ask(api.DELETE("/api/proofs/{id}", at))}
          restore={() => ask(api.POST("/api/proofs/{id}/restore", at))}
          onDone={async () => {
            await refresh();
            void navigate("/proofs");
          }}
        />
      </Box>
      {open && (
        <Box sx={{ mt: 2, maxWidth: 420 }}>
          <Typography role={proof.state === "failed" ? "alert" : "status"}>
            {proof.error || STATES[proof.state]}
          </Typography>
          {proof.state === "running" && (
            <LinearProgress
              variant="determinate"
              value={(proof.progress ?? 0) * 100}
              aria-label="Making the proof"
            />
          )}
        </Box>
      )}
      {made && (
        <>
          <Typography sx={{ mt: 0.75 }}>
            {made.intent === "absolute"
              ? "Absolute colorimetric: the press's paper is printed too."
              : "Relative colorimetric: the proofer's own paper stands for the press's."}{" "}
            {made.size_mm.map((v) => number(v, 0)).join(" × ")} mm at {number(made.resolution, 0)}{" "}
            ppi.
            {made.expected &&
              ` By its profile the proofer will miss the strip by ${number(made.expected.mean)} ΔE00 in the mean, ${number(made.expected.max)} at most.`}
          </Typography>
          {missed.length > 0 && (
            <Typography role="status" sx={{ mt: 0.5, fontWeight: 650 }}>
              Out of this proofer's reach: {missed.map((p) => p.name).join(", ")}.{" "}
              {ids && (
                <Link
                  to={`/questions?ask=show&press=${ids[0]}&proofer=${ids[1]}`}
                  style={{ color: "inherit" }}
                >
                  Can this proofer show that press?
                </Link>
              )}
            </Typography>
          )}
          {made.patches.length === 0 && (
            <Typography sx={{ mt: 1 }}>Made without a strip; there is nothing to read.</Typography>
          )}
        </>
      )}
      {made && made.patches.length > 0 && tolerances && (
        <>
          <Box
            sx={{ mt: 2, pt: 1.5, borderTop: 1, borderColor: "divider", display: "grid", gap: 1 }}
          >
            <Tolerances
              value={tolerances}
              onChange={(chosen) => {
                setOwn(chosen);
                if (shown) anew.mutate(chosen);
              }}
            />
            <Read
              proof={proof}
              tolerances={tolerances}
              onRead={async (read) => {
                setWanted(read.id);
                await refresh();
              }}
            />
            {anew.error && <Notice problem={anew.error} onDismiss={() => anew.reset()} />}
          </Box>
          {shown && (
            <Box
              sx={{
                display: "grid",
                gridTemplateColumns: "minmax(280px, 1fr) 460px",
                gap: 3,
                mt: 2,
                pt: 1.5,
                borderTop: 1,
                borderColor: "divider",
                "@media (max-width: 1150px)": { gridTemplateColumns: "1fr" },
              }}
            >
              <Box>
                <Box
                  sx={{ display: "flex", gap: 1, alignItems: "center", mb: 1, flexWrap: "wrap" }}
                >
                  <Pick
                    label="Reading"
                    width={230}
                    value={String(shown.id)}
                    options={Object.fromEntries(
                      readings.map((r) => [
                        String(r.id),
                        `${moment(r.created)}, ${verdict(r.passes)}`,
                      ]),
                    )}
                    onChange={(v) => setWanted(Number(v))}
                  />
                  <Button
                    component="a"
                    href={`/api/proof-readings/${shown.id}/report.pdf`}
                    download
                  >
                    Report
                  </Button>
                  <Button
                    component="a"
                    href={`/api/proof-readings/${shown.id}/report.txt`}
                    download
                  >
                    CGATS
                  </Button>
                  <RemoveButton
                    quiet
                    label="Remove"
                    name="this reading"
                    remove={() =>
                      ask(
                        api.DELETE("/api/proof-readings/{id}", {
                          params: { path: { id: shown.id } },
                        }),
                      )
                    }
                    restore={() =>
                      ask(
                        api.POST("/api/proof-readings/{id}/restore", {
                          params: { path: { id: shown.id } },
                        }),
                      )
                    }
                    onDone={refresh}
                  />
                </Box>
                {judged ? <Judged reading={judged} /> : <Typography>Judging…</Typography>}
              </Box>
              <Box>
                <Typography variant="h2" sx={{ mb: 0.5 }}>
                  Drift of {proof.press_name} on {proof.proofer_name}
                </Typography>
                <Drift
                  proofs={alike}
                  shown={shown.id}
                  onOpen={(p, r) => {
                    setWanted(r);
                    if (p !== proof.id) void navigate(`/proofs/${p}`);
                  }}
                />
              </Box>
            </Box>
          )}
          <Box sx={{ mt: 2, pt: 1.5, borderTop: 1, borderColor: "divider" }}>
            <Typography variant="h2" sx={{ mb: 1 }}>
              {judged ? "What the press prints, and below it what was read" : "What the strip asks"}
            </Typography>
            <Strip
              patches={made.patches}
              judged={judged?.judgement ?? null}
              chosen={patch}
              onChoose={setPatch}
            />
            <Box sx={{ mt: 1.5, minHeight: 64 }}>
              {one ? (
                <OnePatch patch={one} judged={judged?.judgement ?? null} />
              ) : (
                <Typography variant="body2" color="text.secondary">
                  Choose a patch to see its numbers.
                </Typography>
              )}
            </Box>
          </Box>
        </>
      )}
    </Box>
  );
}
