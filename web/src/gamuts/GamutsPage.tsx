import { Box, LinearProgress } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { GamutSight } from "../api";
import { conditionsQuery } from "../queries/conditions";
import { gamutsQuery } from "../queries/gamuts";
import { Shell } from "../shell";
import { Boundary, Notice, Sentence, Tabs } from "../ui";
import { Choice, NumberField } from "../ui/controls";
import { useAddress } from "../ui/useAddress";
import { Chooser, MOST } from "./Chooser";
import { CloudTable } from "./CloudTable";
import { Cuts } from "./Cuts";
import { GamutTables } from "./GamutTables";
import { hasWebGL, Space } from "./lazySpace";

const SIGHTS: Record<GamutSight, string> = {
  paper: "every white as white",
  absolute: "with the paper’s white",
  black: "white and black as such (BPC)",
};
const VIEWS = { cuts: "Cuts and leaves", space: "Bodies in space" } as const;

interface Asked {
  of: string[];
  sight: GamutSight;
  tac: number | null;
}

/** What the address asks for; `first` where it names no body and does not say none. */
function asked(params: URLSearchParams, first: string[]): Asked {
  const given = params.getAll("of").slice(0, MOST);
  return {
    of: given.length > 0 || params.has("none") ? given : first,
    sight: (params.get("sight") ?? "paper") as GamutSight,
    tac: params.has("tac") ? Number(params.get("tac")) : null,
  };
}

function addressOf({ of, sight, tac }: Asked): URLSearchParams {
  const params = new URLSearchParams();
  of.forEach((ref) => params.append("of", ref));
  if (of.length === 0) params.set("none", "1");
  if (sight !== "paper") params.set("sight", sight);
  if (tac !== null) params.set("tac", String(tac));
  return params;
}

/** Gamuts beside each other: cuts at a lightness, leaves at a hue, figures, and what one holds of another. */
export function GamutsPage() {
  const [params, write] = useAddress();
  const conditions = useQuery(conditionsQuery);
  const first = (conditions.data ?? []).slice(0, 2).map((c) => `condition:${c.id}`);
  const { of, sight, tac } = asked(params, first);
  const [view, setView] = useState<keyof typeof VIEWS>("cuts");
  const found = useQuery({ ...gamutsQuery(of, sight, tac), enabled: of.length > 0 });
  const put = (change: Partial<Asked>) =>
    write((now) => addressOf({ ...asked(now, first), ...change }));
  const report = of.length > 0 ? found.data : undefined;
  const bodies = report?.bodies ?? [];
  const clouds = report?.clouds ?? [];
  const [shownCloud, setShownCloud] = useState("");
  const cloud = clouds.find((c) => c.of === shownCloud) ?? clouds[0];
  const [picked, setPicked] = useState<{ of: string; place: number } | null>(null);
  const chosen = picked !== null && picked.of === cloud?.of ? picked.place : null;
  const choose = (place: number) => cloud && setPicked({ of: cloud.of, place });
  const linked = { cloud, chosen, onChoose: choose };
  return (
    <Shell detail="What each prints, and what is lost from one to another.">
      <Box sx={{ display: "grid", gridTemplateColumns: "236px minmax(0, 1fr)", height: "100%" }}>
        <Box sx={{ p: 2, borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          <Chooser
            of={of}
            called={Object.fromEntries(bodies.map((b) => [b.of, b.name]))}
            onChange={(next) => put({ of: next })}
          />
          <Choice
            label="Way of looking"
            help="The same for all: with the paper’s white, media-relative, or with black point compensation."
            value={sight}
            options={SIGHTS}
            onChange={(next) => put({ sight: next })}
          />
          <Box sx={{ mt: 1 }}>
            <NumberField
              label="Inks held to"
              help="A TAC in place of the conditions’ own: what a lower one costs. Empty: their own."
              value={tac}
              unit="%"
              min={50}
              max={1500}
              empty="their own"
              onRest={(next) => put({ tac: next })}
            />
          </Box>
        </Box>
        <Box sx={{ overflow: "auto", p: 2.5 }}>
          {found.error && <Notice problem={found.error} onRetry={() => void found.refetch()} />}
          {of.length === 0 && (
            <Sentence>Add a condition or a profile on the left to see what it prints.</Sentence>
          )}
          {found.isFetching && of.length > 0 && (
            <LinearProgress aria-label="Gamuts" sx={{ mb: 1 }} />
          )}
          {report && bodies.length > 0 && (
            <>
              <Tabs
                label="How they are shown"
                id="gamuts"
                value={view}
                options={VIEWS}
                onChange={setView}
              >
                {view === "cuts" ? (
                  <Cuts report={report} {...linked} />
                ) : hasWebGL() ? (
                  <Boundary part="drawing in space">
                    <Space report={report} {...linked} />
                  </Boundary>
                ) : (
                  <Sentence>
                    This browser draws nothing in space (no WebGL). Cuts and leaves show the same
                    bodies.
                  </Sentence>
                )}
              </Tabs>
              <GamutTables report={report} />
            </>
          )}
          {clouds.length > 1 && cloud && (
            <Box sx={{ mt: 2 }}>
              <Choice
                label="Colours of"
                help="Whose colours are the dots above, and the rows below."
                value={cloud.of}
                options={Object.fromEntries(clouds.map((c) => [c.of, c.name]))}
                onChange={setShownCloud}
              />
            </Box>
          )}
          {cloud && (
            <CloudTable
              key={cloud.of}
              cloud={cloud}
              bodies={bodies}
              chosen={chosen}
              onChoose={choose}
            />
          )}
        </Box>
      </Box>
    </Shell>
  );
}
