import { Box, Button, Checkbox, FormControlLabel, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { api, type Artwork, ask } from "../api";
import { NewConditionDialog } from "../conditions";
import { conditionsQuery } from "../queries/conditions";
import { houseRulesQuery } from "../queries/jobs";
import { keys } from "../queries/keys";
import { Findings } from "../stages";
import { Explained, Notice, ownCondition, Pick, Sentence, shelves } from "../ui";
import { artworkLine, hasInks } from "../ui/wording";
import { type Import, useImports } from "./useImports";

const sizeOf = (file: File) =>
  file.size < 1e5 ? `${Math.ceil(file.size / 1e3)} kB` : `${(file.size / 1e6).toFixed(1)} MB`;

/** One of the files: how far it is, what was noticed, or why it cannot be a job. */
function Row({ entry, onPolicies }: { entry: Import; onPolicies: () => void }) {
  const { file, artwork, document, error, share, kind } = entry;
  return (
    <Box
      component="li"
      aria-label={file.name}
      sx={{ display: "flex", gap: 2, py: 1.25, borderTop: 1, borderColor: "divider" }}
    >
      <Box
        sx={{
          width: 120,
          height: 86,
          flex: "none",
          bgcolor: "#777777",
          display: "grid",
          placeItems: "center",
        }}
      >
        {artwork && (
          <Box
            component="img"
            src={`/api/artwork/${artwork.id}/thumbnail.png`}
            alt="The imported picture"
            sx={{ maxWidth: 110, maxHeight: 78 }}
          />
        )}
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography sx={{ fontWeight: 700, overflowWrap: "anywhere" }}>
          {artwork?.name ?? file.name}{" "}
          <Box component="span" sx={{ fontWeight: 450, color: "text.secondary" }}>
            <Explained of="file_size" focus={false}>
              {sizeOf(file)}
            </Explained>
          </Box>
        </Typography>
        {error && (
          <Typography role="alert" sx={{ fontWeight: 650 }}>
            {error.message}
          </Typography>
        )}
        {kind === "picture" && !artwork && !error && (
          <Box sx={{ maxWidth: 380 }}>
            <Typography>
              {share === 0
                ? "Waiting…"
                : share < 1
                  ? "Sending the file…"
                  : "Checking and decoding…"}
            </Typography>
            <LinearProgress
              variant={share < 1 ? "determinate" : "indeterminate"}
              value={share * 100}
              aria-label={`Import of ${file.name}`}
            />
          </Box>
        )}
        {artwork && (
          <>
            <Typography>
              <Explained of="pixels" focus={false}>
                {artworkLine(artwork).join("; ")}
              </Explained>
            </Typography>
            <Findings findings={artwork.facts.findings ?? []} />
            {!artwork.facts.profile && (
              <Sentence>
                No profile is embedded, so the numbers have no defined colours. The house rules say
                what stands in; the stage Source lets you choose.
              </Sentence>
            )}
          </>
        )}
        {kind === "document" && (
          <>
            <Typography>A PDF is treated object by object, by an output policy.</Typography>
            {document ? (
              <Typography sx={{ mt: 0.5 }}>
                It is taken in; Policies has it under “Tried on”.
              </Typography>
            ) : (
              <Button sx={{ mt: 0.75 }} onClick={onPolicies}>
                Take it to Policies
              </Button>
            )}
          </>
        )}
      </Box>
    </Box>
  );
}

/** Import: files go up, their facts appear, conditions are ticked once for all of them. */
export function NewJobsPanel({ files, onClose }: { files: File[]; onClose: () => void }) {
  const { imports, toPolicies } = useImports(files);
  const [chosen, setChosen] = useState<number[] | null>(null);
  const [kind, setKind] = useState("");
  const [making, setMaking] = useState(false);
  const [leaveOut, setLeaveOut] = useState(false);
  const client = useQueryClient();
  const navigate = useNavigate();
  const conditions = useQuery(conditionsQuery);
  const sets = useQuery(houseRulesQuery);
  const work = sets.data?.find((s) => s.active)?.rules.work ?? [];
  const usual = work.length === 1 ? work[0] : work.find((k) => k.name === kind);
  // What is ticked follows the kind of work until somebody ticks otherwise.
  const ticked =
    chosen ??
    (conditions.data ?? []).filter((c) => usual?.conditions?.includes(c.key)).map((c) => c.id);
  const ready = imports.flatMap((x) => (x.artwork ? [x.artwork] : []));
  const coming = imports.filter((x) => x.kind === "picture" && !x.artwork && !x.error).length;
  const extra = [...new Set(ready.flatMap((a) => a.facts.extra_channels ?? []))];
  const create = useMutation({
    mutationFn: async (artworks: Artwork[]) => {
      const made = [];
      for (const a of artworks) {
        const extra_channels =
          a.facts.extra_channels?.length && leaveOut ? ("leave out" as const) : ("stop" as const);
        made.push(
          await ask(
            api.POST("/api/jobs", {
              body: { artwork: a.id, conditions: ticked, work: "", extra_channels },
            }),
          ),
        );
      }
      return made;
    },
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: keys.jobs });
      const [first] = made;
      if (made.length === 1 && first)
        void navigate(`/jobs/${first.id}/${first.destinations[0]?.id}/artwork`);
      else onClose();
    },
    onError: () => client.invalidateQueries({ queryKey: keys.jobs }),
  });
  const policies = async (index: number) => {
    if (!(await toPolicies(index))) return;
    await client.invalidateQueries({ queryKey: keys.documents });
    if (imports.length === 1) void navigate("/policies");
  };
  const blocked = extra.length > 0 && !leaveOut;
  const pictures = imports.some((x) => x.kind === "picture");
  return (
    <Box
      component="section"
      role="region"
      aria-label={imports.length === 1 ? "New job" : "New jobs"}
      sx={{ m: 2, p: 2, border: 2, borderColor: "text.primary", bgcolor: "background.paper" }}
    >
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1.5 }}>
        <Typography component="h2" sx={{ fontSize: 15, fontWeight: 700, flex: 1 }}>
          {imports.length === 1 ? "New job" : `${imports.length} files`}
        </Typography>
        <Button onClick={onClose}>Close</Button>
      </Box>
      <Box sx={{ display: "flex", gap: 3, mt: 1, flexWrap: "wrap" }}>
        <Box
          component="ul"
          aria-label="Files"
          sx={{
            listStyle: "none",
            m: 0,
            p: 0,
            flex: "1 1 460px",
            minWidth: 0,
            maxHeight: 420,
            overflow: "auto",
          }}
        >
          {imports.map((entry, i) => (
            <Row key={i} entry={entry} onPolicies={() => void policies(i)} />
          ))}
        </Box>
        {pictures && (
          <Box sx={{ flex: "0 0 300px" }}>
            <Typography variant="h2">
              Where {imports.length === 1 ? "does it" : "do they"} go?
            </Typography>
            {work.length > 1 && (
              <Pick
                label="Kind of work"
                width={280}
                value={kind}
                prompt="by kind of work…"
                options={work.map((k) => [k.name, k.name] as const)}
                onChange={(name) => {
                  setKind(name);
                  setChosen(null);
                }}
              />
            )}
            <Box sx={{ display: "flex", flexDirection: "column" }}>
              {conditions.data?.length === 0 && (
                <Typography role="status">
                  No printing condition is set up here yet. Make one of your press’s profile.
                </Typography>
              )}
              {shelves(conditions.data ?? [], ownCondition).map(
                ([heading, rows]) =>
                  rows.length > 0 && (
                    <Box key={heading} role="group" aria-label={heading}>
                      <Typography color="text.secondary" sx={{ mt: 0.5 }}>
                        {heading}
                      </Typography>
                      {rows.map((c) => (
                        <FormControlLabel
                          key={c.id}
                          sx={{ height: 28, display: "flex" }}
                          control={
                            <Checkbox
                              size="small"
                              checked={ticked.includes(c.id)}
                              onChange={(e) =>
                                setChosen(
                                  e.target.checked
                                    ? [...ticked, c.id]
                                    : ticked.filter((t) => t !== c.id),
                                )
                              }
                            />
                          }
                          label={
                            <Typography>
                              {c.name}{" "}
                              <Box
                                component="span"
                                data-explained="rule_tac"
                                sx={{ color: "text.secondary" }}
                              >
                                {hasInks(c) ? `TAC ${c.ink_rules.tac} %` : "takes RGB"}
                              </Box>
                            </Typography>
                          }
                        />
                      ))}
                    </Box>
                  ),
              )}
            </Box>
            <Button sx={{ mt: 0.5 }} onClick={() => setMaking(true)}>
              New condition…
            </Button>
            <NewConditionDialog
              open={making}
              onClose={() => setMaking(false)}
              onMade={(made) => {
                setMaking(false);
                setChosen([...ticked, made.id]);
              }}
            />
            {extra.length > 0 && (
              <Box
                role="group"
                aria-label="Channels beside the colours"
                sx={{ border: 2, borderColor: "text.primary", p: 1, mt: 1 }}
              >
                <Typography sx={{ fontWeight: 650 }}>
                  What happens to {extra.join(", ")}?
                </Typography>
                <Typography variant="body2">
                  Plinto prints the colours only. Without these channels white, varnish or spot inks
                  are missing.
                </Typography>
                <FormControlLabel
                  control={
                    <Checkbox
                      size="small"
                      checked={leaveOut}
                      onChange={(e) => setLeaveOut(e.target.checked)}
                    />
                  }
                  label={<Typography>Leave {extra.length === 1 ? "it" : "them"} out</Typography>}
                />
              </Box>
            )}
            <Button
              variant="contained"
              sx={{ mt: 1, display: "flex" }}
              disabled={
                !ticked.length || !ready.length || coming > 0 || blocked || create.isPending
              }
              onClick={() => create.mutate(ready)}
            >
              {ready.length > 1 ? `Start ${ready.length} jobs` : "Start the job"}
            </Button>
            {create.error && <Notice problem={create.error} />}
          </Box>
        )}
      </Box>
    </Box>
  );
}
