import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";

import type { ProofBrief } from "../api";
import { proofQuery, proofsQuery } from "../queries/proofs";
import { Shell } from "../shell";
import { Notice, number, SideList, whenEmpty } from "../ui";
import { OneProof } from "./OneProof";
import { verdict } from "./words";

const UNDER_WAY: Record<string, string> = {
  waiting: "waiting",
  held: "held",
  running: "being made",
  failed: "failed",
  cancelled: "cancelled",
};

const fact = (p: ProofBrief) => {
  const last = p.readings[0];
  const said = UNDER_WAY[p.state];
  if (said) return `${p.press_name} on ${p.proofer_name}; ${said}`;
  if (!last) return `${p.press_name} on ${p.proofer_name}; not read yet`;
  return `${p.press_name} on ${p.proofer_name}; ${verdict(last.passes)}, ΔE00 ${number(last.figures.mean ?? 0)}`;
};

/** Proof prints: presses shown on other printers, their strips read and judged, kept as history. */
export function ProofsPage() {
  const { proofId } = useParams();
  const navigate = useNavigate();
  const proofs = useQuery(proofsQuery);
  const rows = proofs.data ?? [];
  const shown = Number(proofId ?? rows[0]?.id ?? 0);
  const proof = useQuery({ ...proofQuery(shown), enabled: shown > 0 });
  return (
    <Shell detail="One press shown on another printer; the strip is read and judged.">
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "264px minmax(0, 1fr)",
          height: "100%",
          minHeight: 0,
        }}
      >
        <Box sx={{ borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          {proofs.error && <Notice problem={proofs.error} onRetry={() => void proofs.refetch()} />}
          <SideList
            label="Proof prints"
            rows={rows.map((p) => ({ id: p.id, name: p.title, fact: fact(p) }))}
            shown={shown}
            empty={whenEmpty(
              proofs,
              "No proofs yet. A job's are made in its stage Deliver, a page's in Policies.",
            )}
            onOpen={(id) => void navigate(`/proofs/${id}`)}
          />
        </Box>
        <Box sx={{ overflow: "auto", minWidth: 0 }}>
          {proof.error && shown > 0 && (
            <Notice problem={proof.error} onRetry={() => void proof.refetch()} />
          )}
          {proof.data && <OneProof key={proof.data.id} proof={proof.data} all={rows} />}
          {!proof.data && !proof.error && rows.length === 0 && !proofs.isPending && (
            <Typography sx={{ p: 3, maxWidth: 560 }}>
              A proof print shows a press, its paper included, on another printer, before the run.
              Below the picture lies a strip of patches with the press's own colours; read it, and
              it is judged by tolerances of your choice.
            </Typography>
          )}
        </Box>
      </Box>
    </Shell>
  );
}
