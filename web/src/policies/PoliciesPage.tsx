import {
  Box,
  Button,
  LinearProgress,
  ListSubheader,
  Menu,
  MenuItem,
  Typography,
} from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { api, ask, type OutputPolicy } from "../api";
import { NewConditionDialog } from "../conditions";
import { conditionsQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { documentsQuery, policiesQuery } from "../queries/policies";
import { uploadDocument } from "../queries/upload";
import { Shell } from "../shell";
import { Explained, Notice, ownCondition, Pick, shelves, SideList, whenEmpty } from "../ui";
import { FileInput, readJson } from "../ui/FileInput";
import { PolicyWork } from "./PolicyWork";
import { policyFact, TEMPLATES } from "./words";

/** Output policies on the left; the chosen one, tried on a document, beside them. */
export function PoliciesPage() {
  const client = useQueryClient();
  const policies = useQuery({ ...policiesQuery, refetchInterval: 2000 });
  const documents = useQuery(documentsQuery);
  const conditions = useQuery(conditionsQuery);
  const [opened, setOpened] = useState<number | null>(null);
  const [documentId, setDocumentId] = useState<number | null>(null);
  const [making, setMaking] = useState(false);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [unreadable, setUnreadable] = useState<string | null>(null);
  const policyFile = useRef<HTMLInputElement>(null);
  const documentFile = useRef<HTMLInputElement>(null);
  // The work on a policy says here how it wants to be left.
  const leaving = useRef<((go: () => void) => void) | null>(null);
  const refresh = () => client.invalidateQueries({ queryKey: keys.policies });
  const create = useMutation({
    mutationFn: (policy: OutputPolicy) => ask(api.POST("/api/policies", { body: policy })),
    onSuccess: async (made) => {
      await refresh();
      setOpened(made.id);
    },
  });
  const fromTemplate = useMutation({
    mutationFn: ({ kind, condition }: { kind: string; condition: number }) =>
      ask(
        api.GET("/api/policies/templates/{kind}", {
          params: { path: { kind }, query: { condition } },
        }),
      ),
    onSuccess: (policy) => create.mutate(policy),
  });
  const take = useMutation({
    mutationFn: (file: File) => uploadDocument(file, () => undefined),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: keys.documents });
      setDocumentId(made.id);
    },
  });
  const read = async (file: File) => {
    try {
      create.mutate(await readJson<OutputPolicy>(file, "an output policy"));
    } catch (caught) {
      setUnreadable(caught instanceof Error ? caught.message : String(caught));
    }
  };
  const shown = policies.data?.find((p) => p.id === opened) ?? policies.data?.[0];
  const document = documents.data?.find((d) => d.id === documentId) ?? documents.data?.[0];
  const error =
    policies.error ??
    create.error ??
    fromTemplate.error ??
    take.error ??
    (unreadable ? new Error(unreadable) : null);
  const dismiss = () => {
    create.reset();
    fromTemplate.reset();
    take.reset();
    setUnreadable(null);
  };
  return (
    <Shell
      detail="What is decided here holds for every file."
      actions={
        <>
          <FileInput
            ref={policyFile}
            label="Policy file"
            accept=".json"
            onFiles={([f]) => {
              if (f) void read(f);
            }}
          />
          <FileInput
            ref={documentFile}
            label="Document file"
            accept=".pdf,.tif,.tiff,.png,.jpg,.jpeg,.psd"
            onFiles={([f]) => {
              if (f) take.mutate(f);
            }}
          />
          <Button onClick={() => policyFile.current?.click()}>Import a file…</Button>
          <Button
            variant="contained"
            aria-haspopup="menu"
            onClick={(e) => setAnchor(e.currentTarget)}
          >
            New policy
          </Button>
          <Menu
            anchorEl={anchor}
            open={Boolean(anchor)}
            onClose={() => setAnchor(null)}
            slotProps={{ paper: { sx: { maxHeight: 480 } } }}
          >
            {Object.entries(TEMPLATES).flatMap(([kind, name]) => [
              <ListSubheader key={kind}>{name}, for</ListSubheader>,
              ...shelves(conditions.data ?? [], ownCondition)
                .flatMap(([, rows]) => rows)
                .map((c) => (
                  <MenuItem
                    key={`${kind}-${c.id}`}
                    onClick={() => {
                      setAnchor(null);
                      fromTemplate.mutate({ kind, condition: c.id });
                    }}
                  >
                    {c.name}
                  </MenuItem>
                )),
            ])}
            <ListSubheader>For a press that is not here yet</ListSubheader>
            <MenuItem
              onClick={() => {
                setAnchor(null);
                setMaking(true);
              }}
            >
              A new condition…
            </MenuItem>
          </Menu>
          <NewConditionDialog
            open={making}
            onClose={() => setMaking(false)}
            onMade={(made) => {
              setMaking(false);
              fromTemplate.mutate({ kind: "strict-press", condition: made.id });
            }}
          />
        </>
      }
    >
      {error && <Notice problem={error} onDismiss={dismiss} />}
      <Box sx={{ display: "grid", gridTemplateColumns: "220px minmax(0, 1fr)", height: "100%" }}>
        <Box sx={{ borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          <SideList
            label="Policies"
            shown={shown?.id}
            onOpen={(id) => {
              if (leaving.current) leaving.current(() => setOpened(id));
              else setOpened(id);
            }}
            empty={whenEmpty(policies, "No policy yet. Begin with a usual case under New policy.")}
            rows={(policies.data ?? []).map((p) => ({
              id: p.id,
              name: p.name,
              fact: (
                <Explained
                  of="policy_rules"
                  focus={false}
                >{`version ${p.version}; ${policyFact(p.policy)}`}</Explained>
              ),
            }))}
          />
          <Box sx={{ p: 2 }}>
            <Typography variant="h2" sx={{ mb: 0.5 }}>
              Tried on
            </Typography>
            <Pick
              field
              label="Document"
              value={String(document?.id ?? "")}
              {...(documents.data?.length === 0 && { prompt: "no document yet" })}
              options={(documents.data ?? []).map((d): [string, string] => [
                String(d.id),
                d.file_name,
              ])}
              onChange={(id) => setDocumentId(Number(id))}
            />
            <Button
              fullWidth
              sx={{ mt: 1 }}
              disabled={take.isPending}
              onClick={() => documentFile.current?.click()}
            >
              Take in a PDF or picture…
            </Button>
            {take.isPending && (
              <LinearProgress aria-label="Taking in the document" sx={{ mt: 1 }} />
            )}
          </Box>
        </Box>
        {shown ? (
          <PolicyWork
            key={shown.id}
            kept={shown}
            document={document ?? null}
            leaving={leaving}
            onGone={async () => {
              setOpened(null);
              await refresh();
            }}
          />
        ) : (
          <Box />
        )}
      </Box>
    </Shell>
  );
}
