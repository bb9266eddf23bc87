import { Box, Typography } from "@mui/material";
import { useEffect, useRef, useState } from "react";

import type { BodyFigures, Cloud, GamutsReport } from "../api";
import { PlotFiles } from "../plots/PlotFiles";
import { Dial } from "../ui/controls";
import { beyond, cutOutline, leafOutline, reachOf } from "./outline";
import { type Dot, Plane } from "./Plane";
import { WhereInPicture } from "./WhereInPicture";

/** How near to a cut or a leaf the dots of a picture are shown: L*, and degrees of hue. */
const NEAR_L = 4;
const NEAR_H = 9;

const hueOf = ([, a = 0, b = 0]: readonly number[]) =>
  ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
const apart = (h: number, k: number) => Math.abs(((h - k + 540) % 360) - 180);

interface Props {
  report: GamutsReport;
  /** The picture or list whose colours are dots. */
  cloud: Cloud | undefined;
  /** Place of the chosen one among them. */
  chosen: number | null;
  onChoose: (place: number) => void;
}

/** A cut at a lightness and a leaf at a hue; a click in one moves the other, and chooses a dot near it. */
export function Cuts({ report, cloud, chosen, onChoose }: Props) {
  const [lightness, setLightness] = useState(50);
  const [hue, setHue] = useState(30);
  const [lab, setLab] = useState<[number, number, number] | null>(null);
  const [from, setFrom] = useState<"cut" | "leaf">("cut");
  const [picked, setPicked] = useState<[number, number, number] | null>(null);
  const cut = useRef<SVGSVGElement>(null);
  const leaf = useRef<SVGSVGElement>(null);
  const { bodies } = report;
  const known = bodies.map((b) => b.figures);
  const solid = known.filter((f): f is BodyFigures => f !== null);
  const mine = chosen === null ? undefined : cloud?.points[chosen];
  const key = mine?.join();
  const here = useRef<number | null>(null);
  // A colour chosen elsewhere is cut through, so that it is seen; one clicked here is in sight.
  useEffect(() => {
    if (!mine || here.current === chosen) return;
    setLightness(Math.min(100, Math.max(0, Math.round(mine[0] ?? 50))));
    if (Math.hypot(mine[1] ?? 0, mine[2] ?? 0) > 1) setHue(Math.round(hueOf(mine)) % 360);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  const job = cloud?.of.startsWith("picture:") ? Number(cloud.of.slice("picture:".length)) : null;
  const dots = (
    near: (p: readonly number[]) => boolean,
    at: (p: readonly number[]) => [number, number],
  ) =>
    (cloud?.points ?? [])
      .map((p, i): Dot => ({
        place: i,
        at: at(p),
        lab: p,
        away: cloud?.away[0]?.[i] ?? false,
        chosen: i === chosen,
      }))
      .filter((d) => d.chosen || near(d.lab));
  const choose = (dot: Dot | null) => {
    if (!dot) return;
    here.current = dot.place;
    onChoose(dot.place);
  };
  const reach = reachOf(solid, cloud?.points ?? []);
  const rad = (hue * Math.PI) / 180;
  const outlines = (of: (f: BodyFigures) => [number, number][]) =>
    known.map((f) => (f ? of(f) : []));
  return (
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
              lab && from === "leaf" && Math.abs(lab[0] - lightness) < 1 ? [lab[1], lab[2]] : null
            }
            onPoint={(at) => {
              setFrom("cut");
              setLab(at);
            }}
            onPick={(at, dot) => {
              choose(dot);
              setHue(Math.round(hueOf(at)) % 360);
              setPicked(at);
            }}
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
            onPick={(at, dot) => {
              choose(dot);
              setLightness(Math.round(at[0]));
              setPicked(at);
            }}
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
      {job !== null && picked && (
        <WhereInPicture
          job={job}
          lab={picked.map((v) => Math.round(v * 10) / 10) as [number, number, number]}
          onClose={() => setPicked(null)}
        />
      )}
      <Typography role="status" aria-label="Under the pointer" sx={{ minHeight: 22, mt: 0.5 }}>
        {lab
          ? readout(lab, bodies)
          : "Point into a plot to read a colour and how far it lies in each gamut; click to cut there, and to see where that colour is in a picture."}
      </Typography>
    </>
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
