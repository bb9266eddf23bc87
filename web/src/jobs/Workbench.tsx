import { Box } from "@mui/material";
import { useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";

import type { Destination, InkChannel, Intent, Job } from "../api";
import { InkContext } from "../plots";
import { useRecipe } from "../recipe";
import { InkStrip, IntentStrip, pixelsOf, StageRail } from "../stages";
import { Boundary, ClashNotice, Notice } from "../ui";
import { useCommands } from "../ui/useCommands";
import { hasInks, INTENT_NAMES, type Stage, STAGES } from "../ui/wording";
import {
  ComparisonViewer,
  type Look,
  type Overlay,
  ReadoutStrip,
  type Tool,
  ToolContext,
  usePointer,
} from "../viewer";
import { placeWith } from "./place";

interface Props {
  job: Job;
  destination: Destination;
  stage: Stage;
  look: Look;
  onLook: (look: Look) => void;
}

const NO_INKS: InkChannel[] = [];
const INTENTS = Object.keys(INTENT_NAMES) as Intent[];

/** Rail on the left, pictures large, what belongs to the stage below them. */
export function Workbench({ job, destination: given, stage, look, onLook }: Props) {
  const navigate = useNavigate();
  const control = useRecipe(job, given);
  const destination = control.destination;
  const [chosen, setChosen] = useState<number | null>(null);
  const [tool, setTool] = useState<Tool | null>(null);
  const [mark, setMark] = useState<[number, number] | null>(null);
  const pointer = usePointer(given.id, control.colours);
  const open = (to: Stage) => void navigate(placeWith({ stage: to }));
  const measured = Boolean(destination.facts.intent);
  const { measureOnce } = control;
  useEffect(() => {
    if (!measured) measureOnce();
  }, [measured, measureOnce]);
  const stageKeys = Object.fromEntries(STAGES.map((s, i) => [`stage${i + 1}`, () => open(s.key)]));
  useCommands({
    ...stageKeys,
    undo: control.undo,
    redo: control.redo,
    veil: () => onLook({ ...look, veilOn: !look.veilOn }),
    intent: () =>
      control.commit({
        intent: INTENTS[(INTENTS.indexOf(control.recipe.intent) + 1) % 4] ?? "perceptual",
      }),
  });
  const tools = useMemo(() => ({ tool, start: setTool, stop: () => setTool(null) }), [tool]);
  const { width, height } = job.artwork.facts;
  const region =
    chosen === null || (stage !== "press-view" && stage !== "inks")
      ? null
      : control.recipe.corrections[chosen]?.region;
  const overlay: Overlay = {
    outline: region ? { corners: pixelsOf(region.corners, width, height) } : null,
    points: job.points.map((p, i) => ({ x: p.x, y: p.y, label: p.name || String(i + 1) })),
  };
  return (
    <ToolContext value={tools}>
      <InkContext value={destination.condition.profile.inks?.channels ?? NO_INKS}>
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "256px minmax(0, 1fr)", xl: "300px minmax(0, 1fr)" },
            height: "100%",
          }}
        >
          <StageRail
            job={job}
            destination={destination}
            stage={stage}
            onStage={open}
            control={control}
            look={look}
            onLook={onLook}
            onMark={setMark}
            chosen={chosen}
            onChosen={setChosen}
          />
          <Box
            sx={{
              display: "flex",
              flexDirection: "column",
              minWidth: 0,
              minHeight: 0,
              borderLeft: 1,
              borderColor: "divider",
            }}
          >
            {control.error && <Notice problem={control.error} onDismiss={control.dismiss} />}
            {control.clash && (
              <ClashNotice
                problem={control.clash.problem}
                onTheirs={control.dismiss}
                onMine={control.insist}
              />
            )}
            <Boundary part="picture" at={control.colours}>
              <ComparisonViewer
                job={job}
                destination={destination}
                control={control}
                look={look}
                onLook={onLook}
                pointer={pointer}
                mark={stage === "inks" ? mark : null}
                overlay={overlay}
              />
            </Boundary>
            <Boundary part="strip" at={stage}>
              {stage === "press-view" && (
                <IntentStrip job={job} destination={destination} control={control} look={look} />
              )}
              {stage === "inks" && hasInks(destination.condition) && (
                <InkStrip destination={destination} control={control} />
              )}
              <ReadoutStrip pointer={pointer} destination={destination} />
            </Boundary>
          </Box>
        </Box>
      </InkContext>
    </ToolContext>
  );
}
