import { Box, LinearProgress, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useSearchParams } from "react-router";

import type { BodyFigures, GamutSight } from "../api";
import { PlotFiles } from "../plots/PlotFiles";
import { conditionsQuery } from "../queries/conditions";
import { gamutsQuery } from "../queries/gamuts";
import { Shell } from "../shell";
import { Notice, Sentence } from "../ui";
import { Choice, Dial, NumberField } from "../ui/controls";
import { Chooser, MOST } from "./Chooser";
import { GamutTables } from "./GamutTables";
import { beyond, cutOutline, leafOutline, reachOf } from "./outline";
import { type Dot, Plane } from "./Plane";

const SIGHTS: Record<GamutSight, string> = {
  paper: "every white as white",
  absolute: "with the paper’s white",
  black: "white and black as such (BPC)",
};
/** How near to a cut or a leaf the dots of a picture are shown: L*, and degrees of hue. */
const NEAR_L = 4;
const NEAR_H = 9;

const hueOf = ([, a = 0, b = 0]: readonly number[]) =>
  ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
const apart = (h: number, k: number) => Math.abs(((h - k + 540) % 360) - 180);

/** Gamuts beside each other: cuts at a lightness, leaves at a hue, figures, and what one holds of another. */
export function GamutsPage() {
  const [params, setParams] = useSearchParams();
  const conditions = useQuery(conditionsQuery);
  const given = params.getAll("of").slice(0, MOST);
  const first = (conditions.data ?? []).slice(0, 2).map((c) => `condition:${c.id}`);
  const of = given.length > 0 || params.has("none") ? given : first;
  const sight = (params.get("sight") ?? "paper") as GamutSight;
  const tac = params.has("tac") ? Number(params.get("tac")) : null;
  const [lightness, setLightness] = useState(50);
  const [hue, setHue] = useState(30);
  const [lab, setLab] = useState<[number, number, number] | null>(null);
  const [from, setFrom] = useState<"cut" | "leaf">("cut");
  const cut = useRef<SVGSVGElement>(null);
  const leaf = useRef<SVGSVGElement>(null);
  const found = useQuery({ ...gamutsQuery(of, sight, tac), enabled: of.length > 0 });
  const put = (change: { of?: string[]; sight?: GamutSight; tac?: number | null }) => {
    const next = new URLSearchParams();
    const all = change.of ?? of;
    all.forEach((ref) => next.append("of", ref));
    if (all.length === 0) next.set("none", "1");
    const chosen = change.sight ?? sight;
    if (chosen !== "paper") next.set("sight", chosen);
    const held = change.tac === undefined ? tac : change.tac;
    if (held !== null) next.set("tac", String(held));
    setParams(next);
  };
  const report = of.length > 0 ? found.data : undefined;
  const bodies = report?.bodies ?? [];
  const known = bodies.map((b) => b.figures);
  const solid = known.filter((f): f is BodyFigures => f !== null);
  const cloud = report?.clouds[0];
  const dots = (
    near: (p: readonly number[]) => boolean,
    at: (p: readonly number[]) => [number, number],
  ) =>
    (cloud?.points ?? [])
      .map((p, i): Dot => ({ at: at(p), lab: p, away: cloud?.away[0]?.[i] ?? false }))
      .filter((d) => near(d.lab));
  const reach = reachOf(solid, cloud?.points ?? []);
  const rad = (hue * Math.PI) / 180;
  const outlines = (of: (f: BodyFigures) => [number, number][]) =>
    known.map((f) => (f ? of(f) : []));
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
              <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 3 }}>
                <Box sx={{ position: "relative", pb: 2 }}>
                  <Dial
                    label="Cut at L*"
                    help="The colours of one lightness; every outline is how far a gamut reaches there."
                    value={lightness}
                    min={0}
                    max={100}
                    unit=""
                    onLive={setLightness}
                    onRest={setLightness}
                  />
                  <Plane
                    label={`Cut at L* ${lightness}`}
                    svg={cut}
                    across={[-reach, reach]}
                    up={[-reach, reach]}
                    axes={["a*", "b*"]}
                    outlines={outlines((f) => cutOutline(f, lightness))}
                    dots={dots(
                      ([l = 0]) => Math.abs(l - lightness) <= NEAR_L,
                      ([, a = 0, b = 0]) => [a, b],
                    )}
                    labAt={(a, b) => [lightness, a, b]}
                    marks={
                      lab && from === "leaf" && Math.abs(lab[0] - lightness) < 1
                        ? [lab[1], lab[2]]
                        : null
                    }
                    onPoint={(at) => {
                      setFrom("cut");
                      setLab(at);
                    }}
                    onPick={(at) => setHue(Math.round(hueOf(at)) % 360)}
                  />
                  <PlotFiles
                    name={`cut at L ${lightness}`}
                    svg={cut}
                    rows={() => [
                      ["gamut", "a", "b"],
                      ...bodies.flatMap((body) =>
                        body.figures
                          ? cutOutline(body.figures, lightness).map(([a, b]) => [
                              JSON.stringify(body.name),
                              a.toFixed(1),
                              b.toFixed(1),
                            ])
                          : [],
                      ),
                    ]}
                  />
                </Box>
                <Box sx={{ position: "relative", pb: 2 }}>
                  <Dial
                    label="Leaf at hue"
                    help="Chroma and lightness of one hue to the right, of the opposite hue to the left."
                    value={hue}
                    min={0}
                    max={359}
                    unit="°"
                    onLive={setHue}
                    onRest={setHue}
                  />
                  <Plane
                    label={`Leaf at hue ${hue}°`}
                    svg={leaf}
                    across={[-reach, reach]}
                    up={[0, 100]}
                    axes={[`C* at ${hue}°, left ${(hue + 180) % 360}°`, "L*"]}
                    outlines={outlines((f) => leafOutline(f, hue))}
                    dots={dots(
                      (p) => Math.min(apart(hueOf(p), hue), apart(hueOf(p), hue + 180)) <= NEAR_H,
                      ([l = 0, a = 0, b = 0]) => [
                        Math.hypot(a, b) * (apart(hueOf([l, a, b]), hue) <= 90 ? 1 : -1),
                        l,
                      ],
                    )}
                    labAt={(c, l) => [l, c * Math.cos(rad), c * Math.sin(rad)]}
                    marks={null}
                    onPoint={(at) => {
                      setFrom("leaf");
                      setLab(at);
                    }}
                    onPick={([l]) => setLightness(Math.round(l))}
                  />
                  <PlotFiles
                    name={`leaf at hue ${hue}`}
                    svg={leaf}
                    rows={() => [
                      ["gamut", "C", "L"],
                      ...bodies.flatMap((body) =>
                        body.figures
                          ? leafOutline(body.figures, hue).map(([c, l]) => [
                              JSON.stringify(body.name),
                              c.toFixed(1),
                              l.toFixed(1),
                            ])
                          : [],
                      ),
                    ]}
                  />
                </Box>
              </Box>
              <Typography
                role="status"
                aria-label="Under the pointer"
                sx={{ minHeight: 22, mt: 0.5 }}
              >
                {lab
                  ? readout(lab, bodies)
                  : "Point into a plot to read a colour and how far it lies in each gamut; click to cut there."}
              </Typography>
              <GamutTables report={report} />
            </>
          )}
        </Box>
      </Box>
    </Shell>
  );
}

const one = (v: number) => v.toFixed(1).replace("-", "−");

/** A colour and where it lies in every body, in words. */
function readout(
  lab: [number, number, number],
  bodies: { name: string; figures: BodyFigures | null }[],
) {
  const place = bodies
    .filter((b) => b.figures)
    .map((b) => {
      const away = beyond(b.figures as BodyFigures, lab);
      return `${b.name}: ${away > 0 ? `outside by C* ${one(away)}` : `inside, C* ${one(-away)} left`}`;
    });
  const [l, a, b] = lab;
  return [`L* ${one(l)}, a* ${one(a)}, b* ${one(b)}, C* ${one(Math.hypot(a, b))}`, ...place].join(
    ";  ",
  );
}
