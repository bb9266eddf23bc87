import { Box, ButtonBase, Typography } from "@mui/material";

import type { Destination, Job } from "../api";
import type { RecipeControl } from "../recipe";
import { Boundary, Explained } from "../ui";
import { artworkLine, deliverFact, inksFact, sourceFact, type Stage, STAGES } from "../ui/wording";
import type { Look } from "../viewer";
import { ArtworkStage } from "./ArtworkStage";
import { DeliverStage } from "./DeliverStage";
import { InksStage } from "./InksStage";
import { PressViewStage } from "./PressViewStage";
import { RetargetNotes } from "./RetargetNotes";
import { SourceStage } from "./SourceStage";

export interface StageProps {
  job: Job;
  destination: Destination;
  control: RecipeControl;
  look: Look;
  onLook: (look: Look) => void;
  onMark: (at: [number, number] | null) => void;
  /** The correction being edited, by its place in the recipe. */
  chosen: number | null;
  onChosen: (index: number | null) => void;
}

interface Props extends StageProps {
  stage: Stage;
  onStage: (stage: Stage) => void;
}

const PANELS = {
  artwork: ArtworkStage,
  source: SourceStage,
  "press-view": PressViewStage,
  inks: InksStage,
  deliver: DeliverStage,
};

const FIGURES = {
  artwork: "bits",
  source: "source_values",
  "press-view": "out_of_gamut",
  inks: "tac_max",
  deliver: "bits",
} as const;

function factOf(stage: Stage, { job, destination, control }: StageProps): string {
  if (stage === "artwork") return artworkLine(job.artwork)[0] ?? "";
  if (stage === "source") return job.question ? "a question waits" : sourceFact(destination);
  if (stage === "inks") return inksFact(control.recipe, destination);
  if (stage === "deliver") return deliverFact(control.recipe);
  const facts = destination.facts.intent;
  return facts ? `${facts.out_of_gamut.toFixed(1)} % of the picture does not fit` : "measuring…";
}

/** The job in the order of work: all five stages with their facts, one of them open. */
export function StageRail({ stage, onStage, ...props }: Props) {
  const { control, destination } = props;
  return (
    <Box
      component="nav"
      aria-label="Stages"
      sx={{ display: "flex", flexDirection: "column", minHeight: 0 }}
    >
      <Box
        component="ol"
        sx={{
          listStyle: "none",
          m: 0,
          p: 0,
          pt: 1,
          flex: 1,
          minHeight: 0,
          overflowY: "auto",
          scrollbarWidth: "thin",
        }}
      >
        <RetargetNotes job={props.job} destination={destination} />
        {STAGES.map((s, i) => {
          const open = s.key === stage;
          const Panel = PANELS[s.key];
          return (
            <Box component="li" key={s.key} sx={{ position: "relative" }}>
              {i < STAGES.length - 1 && !open && (
                <Box
                  aria-hidden
                  sx={{
                    position: "absolute",
                    left: 22,
                    top: 30,
                    bottom: -12,
                    width: "1px",
                    bgcolor: "text.secondary",
                  }}
                />
              )}
              <ButtonBase
                onClick={() => onStage(s.key)}
                aria-expanded={open}
                sx={{
                  display: "grid",
                  gridTemplateColumns: "28px 1fr",
                  width: "100%",
                  textAlign: "left",
                  pl: 2,
                  pr: 2,
                  py: 0.9,
                  alignItems: "start",
                  "&.Mui-focusVisible, &:focus-visible": { outlineOffset: "-3px" },
                  "&:hover .marker": { bgcolor: "text.primary" },
                }}
              >
                <Box
                  className="marker"
                  aria-hidden
                  sx={{
                    mt: "3px",
                    width: 13,
                    height: 13,
                    border: 1.5,
                    borderColor: "text.primary",
                    position: "relative",
                    zIndex: 1,
                    bgcolor: open ? "text.primary" : "background.default",
                    boxShadow: open
                      ? (t) =>
                          `0 0 0 2px ${t.palette.background.default}, 0 0 0 3px ${t.palette.text.primary}`
                      : "none",
                  }}
                />
                <Box sx={{ minWidth: 0 }}>
                  <Typography sx={{ fontWeight: 700 }}>{s.label}</Typography>
                  <Typography variant="body2" color="text.secondary" noWrap={!open}>
                    <Explained of={FIGURES[s.key]} focus={false}>
                      {factOf(s.key, props)}
                    </Explained>
                  </Typography>
                </Box>
              </ButtonBase>
              {open && (
                <Box sx={{ pl: { xs: 2, xl: "44px" }, pr: 2, pb: 1.5 }}>
                  <Boundary part="stage" at={stage}>
                    <Panel {...props} />
                  </Boundary>
                </Box>
              )}
            </Box>
          );
        })}
      </Box>
      <Box
        sx={{
          flex: "none",
          display: "flex",
          borderTop: 1,
          borderColor: "divider",
          "& > button": {
            flex: 1,
            height: 34,
            fontSize: 12.5,
            "&.Mui-disabled": { color: "text.disabled" },
            "&:focus-visible": { outlineOffset: "-3px" },
          },
        }}
      >
        <ButtonBase onClick={control.undo} disabled={!destination.can_undo}>
          Undo (B)
        </ButtonBase>
        <ButtonBase
          onClick={control.redo}
          disabled={!destination.can_redo}
          sx={{ borderLeft: 1, borderColor: "divider" }}
        >
          Redo (N)
        </ButtonBase>
      </Box>
    </Box>
  );
}
