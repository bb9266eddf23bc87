import { Box, Button, Typography } from "@mui/material";
import { useQueries, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Condition, SpotBuild } from "../api";
import { conditionsQuery } from "../queries/conditions";
import { swatchListsQuery } from "../queries/paths";
import { buildsAddress, buildsQuery } from "../queries/spots";
import { Shell } from "../shell";
import { Notice } from "../ui";
import { Asked } from "./Asked";
import { BuildTable, type Column } from "./BuildTable";
import { OneBuild } from "./OneBuild";
import { PolicyDialog } from "./PolicyDialog";
import { useSought } from "./useSought";

const inked = (c: Condition) => !["RGB", "GRAY"].includes(c.profile.colour_space);

/** Spot colours on every press: the build that comes nearest, the miss, and which way it goes. */
export function SpotsPage() {
  const [state, put] = useSought();
  const { fine, without, ...sought } = state;
  const [chosen, setChosen] = useState<{ row: number; condition: number } | null>(null);
  const [taking, setTaking] = useState<Column | null>(null);
  const lists = useQuery(swatchListsQuery);
  const conditions = useQuery(conditionsQuery);
  const list = lists.data?.find((l) => l.id === state.list);
  const usable = (conditions.data ?? []).filter(inked);
  const shown = usable.filter((c) => !without.includes(c.id));
  const found = useQueries({
    queries: shown.map((c) =>
      buildsQuery(sought, c.id, `${list?.digest ?? ""}:${c.revision ?? 0}:${c.profile.sha256}`),
    ),
  });
  const columns: Column[] = shown.map((condition, i) => ({
    condition,
    builds: found[i]?.data?.builds ?? null,
    problem: found[i]?.error ?? null,
  }));
  const begun = state.list !== null || state.colour !== "";
  const problem = found.length > 0 && found.every((f) => f.error) ? found[0]?.error : null;
  const at = chosen && columns.find((c) => c.condition.id === chosen.condition);
  const one: SpotBuild | undefined = at?.builds?.[chosen?.row ?? 0];
  return (
    <Shell detail="The nearest build of a colour in every press’s inks, and how it misses.">
      <Box sx={{ display: "grid", gridTemplateColumns: "316px minmax(0, 1fr)", height: "100%" }}>
        <Box sx={{ p: 2, borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          <Asked
            state={state}
            lists={lists.data ?? []}
            conditions={usable}
            onChange={(change) => {
              if (change.list !== undefined || change.colour !== undefined) setChosen(null);
              put(change);
            }}
          />
        </Box>
        <Box
          sx={{
            display: "grid",
            gridTemplateRows: "minmax(0, 1fr) auto",
            minWidth: 0,
            minHeight: 0,
          }}
        >
          <Box sx={{ p: 2, overflow: "auto", minWidth: 0 }}>
            {!begun && (
              <Typography sx={{ maxWidth: 560 }}>
                Choose a list of measured colours on the left, or type one colour to try it. Every
                printing condition answers with the build in its inks that comes nearest, the
                difference that stays, and which way it goes.
              </Typography>
            )}
            {problem && <Notice problem={problem} />}
            {begun && shown.length === 0 && conditions.data && (
              <Typography>No printing condition with inks is chosen.</Typography>
            )}
            {begun && !problem && shown.length > 0 && (
              <>
                <Box
                  sx={{
                    position: "sticky",
                    left: 0,
                    display: "flex",
                    justifyContent: "flex-end",
                    mb: 1,
                  }}
                >
                  <Button
                    component="a"
                    download
                    href={buildsAddress(
                      sought,
                      shown.map((c) => c.id),
                    )}
                  >
                    All as CSV
                  </Button>
                </Box>
                <BuildTable
                  columns={columns}
                  fine={fine}
                  chosen={chosen}
                  onChoose={setChosen}
                  onTake={state.list === null ? undefined : setTaking}
                />
              </>
            )}
          </Box>
          {one && at && (
            <OneBuild
              build={one}
              press={at.condition.name}
              fine={fine}
              onClose={() => setChosen(null)}
            />
          )}
          {taking?.builds && (
            <PolicyDialog
              condition={taking.condition}
              builds={taking.builds}
              onClose={() => setTaking(null)}
            />
          )}
        </Box>
      </Box>
    </Shell>
  );
}
