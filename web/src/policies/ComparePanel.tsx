import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type OutputPolicy, type PdfDocument, type Policy } from "../api";
import { keys } from "../queries/keys";
import { comparisonQuery, policiesQuery, versionsQuery } from "../queries/policies";
import { Notice, Pick, Sentence } from "../ui";
import { SeveralPolicies } from "./SeveralPolicies";
import { TreatedRow } from "./TreatedRow";

interface Props {
  kept: Policy;
  draft: OutputPolicy;
  document: PdfDocument | null;
  onTake: (policy: OutputPolicy) => void;
}

/** What sets the policy as it stands apart from a former version or another policy. */
export function ComparePanel({ kept, draft, document, onTake }: Props) {
  const policies = useQuery(policiesQuery);
  const versions = useQuery(versionsQuery(kept.id, kept.version));
  const [against, setAgainst] = useState(`v${kept.version}`);
  const [id, setId] = useState<number | null>(null);
  const options: Record<string, string> = {
    ...Object.fromEntries(
      [...(versions.data ?? [])]
        .reverse()
        .map((v) => [
          `v${v.number}`,
          `version ${v.number}${v.number === kept.version ? ", as kept" : ""}`,
        ]),
    ),
    ...Object.fromEntries(
      (policies.data ?? []).filter((p) => p.id !== kept.id).map((p) => [`p${p.id}`, p.name]),
    ),
  };
  const other = against.startsWith("v")
    ? versions.data?.find((v) => `v${v.number}` === against)?.policy
    : policies.data?.find((p) => `p${p.id}` === against)?.policy;
  const both = other && { before: other, after: draft };
  const differences = useQuery({
    queryKey: [...keys.policyDifferences, both],
    queryFn: () =>
      ask(
        api.POST("/api/policies/compare", {
          body: both as { before: OutputPolicy; after: OutputPolicy },
        }),
      ),
    enabled: both !== undefined,
  });
  const start = useMutation({
    mutationFn: (body: { before: OutputPolicy; after: OutputPolicy }) =>
      ask(api.POST("/api/policy-comparisons", { body })),
    onSuccess: (made) => setId(made.id),
  });
  const tried = useQuery(comparisonQuery(id));
  const busy =
    start.isPending || tried.data?.state === "waiting" || tried.data?.state === "running";
  const rows = differences.data ?? [];
  const error =
    differences.error ??
    start.error ??
    (tried.data?.state === "failed" ? new Error(tried.data.error) : null);
  return (
    <Box
      role="region"
      aria-label="Compared"
      sx={{ border: 1, borderColor: "divider", bgcolor: "background.paper", p: 2, mb: 2 }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, mb: 1 }}>
        <Typography variant="h2">What is different from</Typography>
        <Pick
          label="Compared with"
          width={230}
          value={against}
          options={options}
          onChange={(v) => {
            setAgainst(v);
            setId(null);
          }}
        />
        <Box sx={{ flex: 1 }} />
        <Button
          disabled={!other || rows.length === 0}
          onClick={() => other && onTake({ ...other, name: draft.name })}
        >
          Take its rules over
        </Button>
        <Button
          disabled={!both || busy || rows.length === 0}
          onClick={() => both && start.mutate(both)}
        >
          Try on recent documents
        </Button>
      </Box>
      {error && (
        <Notice
          problem={error}
          onDismiss={() => {
            start.reset();
            setId(null);
          }}
        />
      )}
      {rows.length === 0 && differences.data && (
        <Sentence>Nothing: they treat every document alike.</Sentence>
      )}
      {rows.length > 0 && (
        <Box
          component="table"
          aria-label="Differences"
          sx={{
            width: "100%",
            borderCollapse: "collapse",
            fontSize: 12.5,
            "& td, & th": {
              borderTop: 1,
              borderColor: "divider",
              px: 0.75,
              py: 0.5,
              textAlign: "left",
              verticalAlign: "top",
            },
          }}
        >
          <thead>
            <tr>
              <th>Where</th>
              <th>{options[against] ?? "Before"}</th>
              <th>As it stands here</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((d) => (
              <tr key={d.where}>
                <td style={{ fontWeight: 650, whiteSpace: "nowrap" }}>{d.where}</td>
                <td>{d.before || "–"}</td>
                <td>{d.after || "–"}</td>
              </tr>
            ))}
          </tbody>
        </Box>
      )}
      {busy && (
        <LinearProgress
          variant={tried.data?.progress ? "determinate" : "indeterminate"}
          value={(tried.data?.progress ?? 0) * 100}
          aria-label="Trying on recent documents"
          sx={{ mt: 1 }}
        />
      )}
      {tried.data?.state === "done" && (
        <Box
          component="ul"
          aria-label="Recent documents"
          sx={{ listStyle: "none", p: 0, m: 0, mt: 1.5 }}
        >
          {tried.data.report?.documents.map((t) => (
            <TreatedRow key={t.document} treated={t} />
          ))}
        </Box>
      )}
      {document && (
        <SeveralPolicies
          key={document.id}
          document={document}
          choices={[
            { key: "draft", name: `${draft.name}, as it stands here`, policy: draft },
            ...(policies.data ?? [])
              .filter((p) => p.id !== kept.id)
              .map((p) => ({ key: `p${p.id}`, name: p.name, policy: p.policy })),
          ]}
        />
      )}
    </Box>
  );
}
