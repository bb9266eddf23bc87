import { Box, ButtonBase, ListSubheader, Menu, MenuItem } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { api, ask, type Condition, type Job } from "../api";
import { NewConditionDialog } from "../conditions";
import { conditionsQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { ownCondition, shelves } from "../ui";
import { placeWith } from "./place";
import { useOverflow } from "./useOverflow";

interface Props {
  job: Job;
  chosen: number | undefined;
}

/** The job's conditions side by side, and the way to add one. */
export function ConditionTabs({ job, chosen }: Props) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const conditions = useQuery(conditionsQuery);
  const used = new Set(job.destinations.map((d) => d.condition.id));
  // One's own first, a line between them and those that come with Plinto.
  const [[, own], [, shipped]] = shelves(
    (conditions.data ?? []).filter((c) => !used.has(c.id)),
    ownCondition,
  );
  const free = [...own, ...shipped];
  const last = (c: Condition) => shipped.length > 0 && c === own.at(-1);
  const add = useMutation({
    mutationFn: (condition: number) =>
      ask(
        api.POST("/api/jobs/{id}/destinations", {
          params: { path: { id: job.id } },
          body: { condition },
        }),
      ),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: [...keys.jobs, job.id] });
      void navigate(`/jobs/${job.id}/${made.id}/press-view`);
    },
  });
  const retarget = useMutation({
    mutationFn: (condition: number) =>
      ask(
        api.POST("/api/destinations/{id}/retarget", {
          params: { path: { id: chosen ?? 0 } },
          body: { condition },
        }),
      ),
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: [...keys.jobs, job.id] });
      void navigate(`/jobs/${job.id}/${made.id}/press-view`);
    },
  });
  const [making, setMaking] = useState(false);
  const [strip, folds] = useOverflow(job.destinations.map((d) => d.condition.name).join());
  const [list, setList] = useState<HTMLElement | null>(null);
  const go = (id: number) => void navigate(placeWith({ destination: id }));
  const current = job.destinations.find((d) => d.id === chosen);
  const tab = {
    px: 1.5,
    height: 30,
    fontSize: 12.5,
    fontWeight: 600,
    borderLeft: 1,
    borderColor: "divider",
    whiteSpace: "nowrap",
  };
  const place = job.destinations.findIndex((d) => d.id === chosen) + 1;
  return (
    <Box
      ref={strip}
      component="nav"
      aria-label="Conditions of this job"
      sx={{
        flex: 1,
        minWidth: 0,
        display: "flex",
        justifyContent: "flex-end",
        overflow: "hidden",
        py: "3px",
        px: "3px",
      }}
    >
      <Box
        sx={{
          display: "flex",
          border: 1,
          borderColor: "divider",
          flex: "none",
          "& > :first-of-type": { borderLeft: 0 },
        }}
      >
        {folds && job.destinations.length > 1 ? (
          <>
            <ButtonBase
              sx={{ ...tab, bgcolor: "text.primary", color: "background.paper" }}
              aria-haspopup="menu"
              onClick={(e) => setList(e.currentTarget)}
            >
              {current?.condition.name ?? "Conditions"}, {place} of {job.destinations.length} ▾
            </ButtonBase>
            <Menu anchorEl={list} open={Boolean(list)} onClose={() => setList(null)}>
              {job.destinations.map((d) => (
                <MenuItem
                  key={d.id}
                  selected={d.id === chosen}
                  onClick={() => {
                    setList(null);
                    go(d.id);
                  }}
                >
                  {d.condition.name}
                </MenuItem>
              ))}
            </Menu>
          </>
        ) : (
          job.destinations.map((d) => (
            <ButtonBase
              key={d.id}
              aria-current={d.id === chosen ? "page" : undefined}
              onClick={() => go(d.id)}
              sx={{
                ...tab,
                ...(d.id === chosen && { bgcolor: "text.primary", color: "background.paper" }),
              }}
            >
              {d.condition.name}
            </ButtonBase>
          ))
        )}
        {conditions.data && (
          <ButtonBase
            sx={{ ...tab, color: "text.secondary" }}
            aria-haspopup="menu"
            onClick={(e) => setAnchor(e.currentTarget)}
          >
            + Condition
          </ButtonBase>
        )}
        <Menu anchorEl={anchor} open={Boolean(anchor)} onClose={() => setAnchor(null)}>
          {current && free.length > 0 && (
            <ListSubheader>Take the recipe of {current.condition.name} to</ListSubheader>
          )}
          {current &&
            free.map((c) => (
              <MenuItem
                key={`r${c.id}`}
                divider={last(c)}
                onClick={() => {
                  setAnchor(null);
                  retarget.mutate(c.id);
                }}
              >
                {c.name}
              </MenuItem>
            ))}
          <ListSubheader>Begin anew for</ListSubheader>
          {free.map((c) => (
            <MenuItem
              key={c.id}
              divider={last(c)}
              onClick={() => {
                setAnchor(null);
                add.mutate(c.id);
              }}
            >
              {c.name}
            </MenuItem>
          ))}
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
            add.mutate(made.id);
          }}
        />
      </Box>
    </Box>
  );
}
