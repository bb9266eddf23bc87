import { Typography } from "@mui/material";

import type { InkFigures } from "../../api";
import { Evenness, Explained } from "../../ui";
import { FactList, Section, Toggle } from "../../ui/controls";
import type { StageProps } from "../StageRail";

/** Aids for the process at hand: break-up of highlights, mesh and ruling, early black. */
export function Aids({
  destination,
  look,
  onLook,
  figures,
}: StageProps & { figures: InkFigures | undefined }) {
  const aids = figures?.aids;
  if (!aids) return null;
  const { screen, fine, grain, fine_dot } = aids;
  const worst = Math.max(0, ...Object.values(fine));
  const grainy = grain > 5;
  return (
    <Section
      title="Aids for the process"
      fact={screen ? `mesh ${screen.mesh}` : grainy ? "grain" : ""}
      of="mesh"
      open={screen !== null || grainy}
    >
      {screen && (
        <>
          <FactList
            facts={[
              ["Ruling", `${screen.ruling.toFixed(0)} lines/inch`, "ruling"],
              ["Mesh, at least", `${screen.mesh} threads/cm`, "mesh"],
              ["Thread and opening", `${screen.thread} and ${screen.opening} µm`, "thread"],
              [
                "Dots that hold",
                `${screen.least_dot.toFixed(1)} to ${screen.most_dot.toFixed(1)} %`,
                "holding_dots",
              ],
              ["Grey levels of the film", String(screen.tones), "film_levels"],
            ]}
          />
          <Typography variant="body2" sx={{ mt: 0.5 }}>
            4.5 threads a screen line, as a rule of thumb; smaller dots fall through the mesh of{" "}
            {destination.condition.name}. Make a test print.
          </Typography>
        </>
      )}
      {fine_dot > 0 ? (
        <>
          <Toggle
            label={`Show dots under ${Number(fine_dot.toFixed(1))} % as gone`}
            checked={look.breakUp > 0}
            onChange={(on) => onLook({ ...look, map: "", breakUp: on ? fine_dot : 0 })}
            help={`Simulates highlights that break up: every tone value below it disappears, as on ${destination.condition.name}.`}
          />
          <Typography variant="body2">
            Up to <Explained of="fine_dots">{worst.toFixed(1)} %</Explained> of the picture has such
            fine dots on one plate.
          </Typography>
        </>
      ) : (
        <Typography variant="body2">
          {destination.condition.name} names no least dot: every tone is taken to print.
        </Typography>
      )}
      <Typography
        variant="body2"
        sx={{ mt: 0.5, fontWeight: grainy ? 650 : 400 }}
        data-testid="grain"
        data-explained="grain"
      >
        {grainy
          ? `Black starts early: ${grain.toFixed(1)} % of the picture is light and has single black dots, which look grainy. A later black start or a smaller reach helps.`
          : `Single black dots stand in ${grain.toFixed(1)} % of the picture's light tones; that is not grainy.`}
      </Typography>
      {figures.greys && <Evenness greys={figures.greys} />}
    </Section>
  );
}
