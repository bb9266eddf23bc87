import { Box, Button, TextField, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { type DragEvent, useState } from "react";
import { useNavigate, useParams } from "react-router";

import type { Condition } from "../api";
import { Swatch } from "../plots/Swatch";
import { conditionsQuery } from "../queries/conditions";
import { Shell } from "../shell";
import { Explained, Notice } from "../ui";
import { library } from "../ui/cells";
import { number } from "../ui/numbers";
import { ConditionDetail } from "./ConditionDetail";
import { NewCondition } from "./NewCondition";
import { answersTo, inksOf, processName } from "./words";

const used = (c: Condition) =>
  [
    c.jobs ? `${c.jobs} ${c.jobs === 1 ? "job" : "jobs"}` : "",
    c.media ? `${c.media} ${c.media === 1 ? "medium" : "media"}` : "",
  ]
    .filter(Boolean)
    .join(", ") || "–";

function Rows({
  rows,
  shown,
  onOpen,
}: {
  rows: Condition[];
  shown: number | undefined;
  onOpen: (id: number) => void;
}) {
  return rows.map((c) => (
    <Box
      component="tr"
      key={c.id}
      aria-current={c.id === shown ? "true" : undefined}
      onClick={() => onOpen(c.id)}
      sx={{
        cursor: "pointer",
        "&:hover": { bgcolor: "background.paper" },
        ...(c.id === shown && {
          bgcolor: "background.paper",
          boxShadow: (t) => `inset 4px 0 0 ${t.palette.text.primary}`,
        }),
      }}
    >
      <td>
        <Box
          component="button"
          type="button"
          onClick={() => onOpen(c.id)}
          sx={{
            all: "unset",
            cursor: "pointer",
            fontWeight: 700,
            display: "block",
            "&:focus-visible": { outline: "2px solid", outlineOffset: 2 },
          }}
        >
          {c.name}
        </Box>
        <Box sx={{ color: "text.secondary", fontSize: 12 }}>
          {[c.medium, c.profile.description].filter((t) => t && t !== "-").join("; ")}
        </Box>
      </td>
      <td>{processName(c.process ?? "")}</td>
      <td>{inksOf(c.profile)}</td>
      <td data-explained="paper_white" style={{ whiteSpace: "nowrap" }}>
        {c.profile.facts && (
          <>
            <Swatch lab={c.profile.facts.white} />
            L* {number(c.profile.facts.white[0] ?? 0)}
          </>
        )}
      </td>
      <td data-explained="rule_tac" style={{ whiteSpace: "nowrap" }}>
        {c.profile.inks ? `${c.ink_rules.tac} %` : "–"}
      </td>
      <td data-explained="used_by">{used(c)}</td>
    </Box>
  ));
}

/** Printing conditions: one's own first, then those that come with Plinto. */
export function ConditionsPage() {
  const navigate = useNavigate();
  const { conditionId } = useParams();
  const conditions = useQuery({ ...conditionsQuery, refetchInterval: 4000 });
  const [typed, setTyped] = useState("");
  const [making, setMaking] = useState<{ file: File | undefined; round: number } | null>(null);
  const [over, setOver] = useState(false);
  const all = conditions.data ?? [];
  const found = all.filter((c) => answersTo(c, typed));
  const own = found.filter((c) => c.own);
  const shipped = found.filter((c) => !c.own);
  const shown = all.find((c) => c.id === Number(conditionId));
  const open = (id: number | null) => {
    setMaking(null);
    void navigate(id === null ? "/conditions" : `/conditions/${id}`);
  };
  const make = (file?: File) => setMaking({ file, round: (making?.round ?? 0) + 1 });
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const [file] = event.dataTransfer.files;
    if (file) make(file);
  };
  return (
    <Shell
      detail={conditions.data ? `${all.filter((c) => c.own).length} of your own` : ""}
      actions={
        <Button variant="contained" onClick={() => make()}>
          New condition…
        </Button>
      }
    >
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns:
            shown && !making ? "minmax(0, 1fr) minmax(380px, 44%)" : "minmax(0, 1fr)",
          height: "100%",
          outline: over ? "3px dashed" : "none",
          outlineOffset: -8,
        }}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        <Box sx={{ overflow: "auto", p: 2, minWidth: 0 }}>
          {making && (
            <Box
              sx={{
                border: 2,
                borderColor: "text.primary",
                bgcolor: "background.paper",
                p: 2,
                mb: 2,
              }}
            >
              <NewCondition
                key={making.round}
                file={making.file}
                onMade={(made) => open(made.id)}
                onClose={() => setMaking(null)}
              />
            </Box>
          )}
          {conditions.error && (
            <Notice problem={conditions.error} onRetry={() => void conditions.refetch()} />
          )}
          {conditions.isPending && (
            <Typography color="text.secondary">Reading the conditions…</Typography>
          )}
          {conditions.data && (
            <>
              <TextField
                value={typed}
                onChange={(e) => setTyped(e.target.value)}
                placeholder="Search by name, press, medium, process, profile"
                slotProps={{ htmlInput: { "aria-label": "Search conditions" } }}
                sx={{ maxWidth: 420, mb: 1 }}
              />
              <Box
                component="table"
                aria-label="Conditions"
                sx={{
                  ...library,
                  "& td": { ...library["& td"], py: 0.75 },
                  "& td:first-of-type, & th:first-of-type": { pl: 1.25 },
                }}
              >
                <thead>
                  <tr>
                    <th>Name</th>
                    <th>Process</th>
                    <th>Inks</th>
                    <th>
                      <Explained of="paper_white">Paper</Explained>
                    </th>
                    <th>
                      <Explained of="rule_tac">TAC</Explained>
                    </th>
                    <th>
                      <Explained of="used_by">Used by</Explained>
                    </th>
                  </tr>
                </thead>
                <tbody>
                  <Box component="tr">
                    <Box
                      component="th"
                      colSpan={6}
                      scope="rowgroup"
                      sx={{ pt: "12px !important", color: "text.primary !important" }}
                    >
                      Your own
                    </Box>
                  </Box>
                  {own.length === 0 && (
                    <tr>
                      <td colSpan={6}>
                        {typed
                          ? "None of yours answers to that."
                          : "None yet. Drop your press’s profile anywhere on this page."}
                      </td>
                    </tr>
                  )}
                  <Rows rows={own} shown={shown?.id} onOpen={open} />
                  {shipped.length > 0 && (
                    <Box component="tr">
                      <Box
                        component="th"
                        colSpan={6}
                        scope="rowgroup"
                        sx={{ pt: "16px !important", color: "text.primary !important" }}
                      >
                        With Plinto
                      </Box>
                    </Box>
                  )}
                  <Rows rows={shipped} shown={shown?.id} onOpen={open} />
                </tbody>
              </Box>
            </>
          )}
        </Box>
        {shown && !making && (
          <Box
            sx={{
              borderLeft: 1,
              borderColor: "divider",
              overflow: "auto",
              bgcolor: "background.paper",
              minWidth: 0,
            }}
          >
            <ConditionDetail key={shown.id} condition={shown} onOpen={open} />
          </Box>
        )}
      </Box>
    </Shell>
  );
}
