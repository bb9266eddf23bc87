import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type PointerEvent, useRef, useState } from "react";

import { api, ask, type Followed, type FollowedRow, type SwatchList } from "../api";
import { DISTANCE_END, DISTANCE_STEPS } from "../plots/distance";
import { jobQuery } from "../queries/jobs";
import { keys } from "../queries/keys";
import {
  AS_LISTED,
  followedQuery,
  type Following,
  MOST_ROWS,
  pictureAddress,
  type Rows,
} from "../queries/paths";
import { Choice, Notice, NumberField } from "../ui";
import { between, centres, firstRegion, type Region, within } from "./region";
import { SHORT } from "./words";

interface Props {
  following: Following;
  job: number;
  report: Followed;
  first: number;
  second: number;
  formula: Rows["formula"];
  chosen: FollowedRow | null;
  onChoose: (row: FollowedRow) => void;
  onTaken: (list: SwatchList) => void;
}

const SHOWN = { pair: "after both steps", map: "their difference as a map" } as const;
const EDGE = 900;

/** The picture after the two compared steps, or the map of their difference; the chosen colour's place;
 * a region with a grid of marks to take a list from. */
export function Pictures({
  following,
  job,
  report,
  first,
  second,
  formula,
  chosen,
  onChoose,
  onTaken,
}: Props) {
  const client = useQueryClient();
  const [shown, setShown] = useState<keyof typeof SHOWN>("pair");
  const [region, setRegion] = useState<Region | null>(null);
  const found = useQuery(jobQuery(job));
  const facts = found.data?.artwork.facts;
  const marked = useQuery({
    ...followedQuery(following, AS_LISTED, 0, MOST_ROWS),
    enabled: following.list !== null,
  });
  const take = useMutation({
    mutationFn: (r: Region) =>
      ask(api.POST("/api/swatch-lists/sampled", { body: { job, ...r } as never })),
    onSuccess: async (list) => {
      await client.invalidateQueries({ queryKey: keys.swatches });
      setRegion(null);
      onTaken(list);
    },
  });
  if (found.error) return <Notice problem={found.error} />;
  if (!facts) return null;
  const { width, height } = facts;
  const put = (change: Partial<Region>) =>
    setRegion((old) => old && within({ ...old, ...change }, width, height));
  const panes =
    shown === "map"
      ? [
          {
            key: "map",
            title: `${first + 1} to ${second + 1}, ${SHORT[formula]}`,
            address: pictureAddress(following, job, { first, second, formula }, EDGE),
          },
        ]
      : [...new Set([first, second])].map((step) => ({
          key: String(step),
          title: `${step + 1}: ${report.steps[step]?.name ?? ""}`,
          address: pictureAddress(following, job, { step }, EDGE),
        }));
  const placed = (marked.data?.rows ?? []).filter((r) => r.place);
  return (
    <Box sx={{ display: "flex", gap: 2, minHeight: 0, flex: 1 }}>
      <Box
        sx={{
          flex: 1,
          minWidth: 0,
          display: "flex",
          // Two wide pictures are larger above each other.
          flexDirection: width > height ? "column" : "row",
          gap: 1,
        }}
      >
        {panes.map((pane) => (
          <Pane
            key={pane.key}
            title={pane.title}
            address={pane.address}
            size={[width, height]}
            region={region}
            placed={placed}
            chosen={chosen}
            onChoose={onChoose}
            onRegion={region ? put : null}
          />
        ))}
      </Box>
      <Box sx={{ width: 214, flex: "none", overflow: "auto" }}>
        <Choice label="Shown" value={shown} options={SHOWN} onChange={setShown} />
        {shown === "map" && (
          <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, mt: 1, fontSize: 12 }}>
            <span>0</span>
            <Box
              aria-hidden
              sx={{
                flex: 1,
                height: 10,
                background: `linear-gradient(90deg, ${DISTANCE_STEPS.join(", ")})`,
              }}
            />
            <span>
              {DISTANCE_END} {SHORT[formula]}
            </span>
          </Box>
        )}
        <Box sx={{ borderTop: 1, borderColor: "divider", mt: 1.5, pt: 1 }}>
          {region === null ? (
            <Button onClick={() => setRegion(firstRegion(width, height))}>
              Take colours from a region…
            </Button>
          ) : (
            <Box role="group" aria-label="Region and its marks">
              <Typography variant="body2" sx={{ mb: 0.5 }}>
                Draw the region on the picture, or give it in pixels.
              </Typography>
              {(
                [
                  ["x", "Left", width],
                  ["y", "Top", height],
                  ["width", "Width", width],
                  ["height", "Height", height],
                ] as const
              ).map(([part, label, most]) => (
                <NumberField
                  key={part}
                  label={label}
                  help="In pixels of the artwork."
                  value={region[part]}
                  unit="px"
                  min={part === "x" || part === "y" ? 0 : 1}
                  max={most}
                  onRest={(value) => value !== null && put({ [part]: value })}
                />
              ))}
              <NumberField
                label="Columns"
                help="Marks beside each other."
                value={region.columns}
                unit=""
                min={1}
                max={100}
                onRest={(value) => value !== null && put({ columns: Math.round(value) })}
              />
              <NumberField
                label="Rows"
                help="Marks below each other."
                value={region.rows}
                unit=""
                min={1}
                max={100}
                onRest={(value) => value !== null && put({ rows: Math.round(value) })}
              />
              <NumberField
                label="A mark"
                help="Edge of the square whose mean a mark takes. Larger than the artwork’s texture, smaller than its areas."
                value={region.mark}
                unit="px"
                min={1}
                max={501}
                onRest={(value) => value !== null && put({ mark: Math.round(value) })}
              />
              {take.error && <Notice problem={take.error} />}
              <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
                <Button
                  variant="contained"
                  disabled={take.isPending}
                  onClick={() => take.mutate(region)}
                >
                  Take {region.columns * region.rows}
                </Button>
                <Button onClick={() => setRegion(null)}>Leave it</Button>
              </Box>
            </Box>
          )}
        </Box>
      </Box>
    </Box>
  );
}

interface PaneProps {
  title: string;
  address: string;
  size: [number, number];
  region: Region | null;
  placed: FollowedRow[];
  chosen: FollowedRow | null;
  onChoose: (row: FollowedRow) => void;
  onRegion: ((change: Partial<Region>) => void) | null;
}

/** One picture on the neutral surround; marks and region lie over it in thin lines of black and white. */
function Pane({ title, address, size, region, placed, chosen, onChoose, onRegion }: PaneProps) {
  const [width, height] = size;
  const [start, setStart] = useState<{ at: [number, number]; moves: Region | null } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const at = (event: PointerEvent): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    return [
      ((event.clientX - box.left) / box.width) * width,
      ((event.clientY - box.top) / box.height) * height,
    ];
  };
  const unit = Math.max(width, height) / 500;
  const inside = (r: Region, [x, y]: [number, number]) =>
    x > r.x && x < r.x + r.width && y > r.y && y < r.y + r.height;
  const marks = region ? centres(region) : [];
  const shownPlace = chosen?.place;
  return (
    <Box sx={{ flex: 1, minWidth: 0, minHeight: 0, display: "flex", flexDirection: "column" }}>
      <Typography variant="body2" noWrap sx={{ mb: 0.5 }}>
        {title}
      </Typography>
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          bgcolor: "#808080",
          p: 2,
          containerType: "size",
          display: "flex",
          alignItems: "center",
          justifyContent: "center",
        }}
      >
        <Box
          sx={{
            position: "relative",
            aspectRatio: `${width} / ${height}`,
            width: `min(100cqw, calc(100cqh * ${width / height}))`,
          }}
        >
          <Box
            component="img"
            src={address}
            alt={title}
            draggable={false}
            sx={{ width: "100%", height: "100%", display: "block" }}
          />
          <Box
            ref={svg}
            component="svg"
            viewBox={`0 0 ${width} ${height}`}
            aria-label={`${title}: places`}
            sx={{
              position: "absolute",
              inset: 0,
              width: "100%",
              height: "100%",
              touchAction: "none",
              cursor: onRegion ? "crosshair" : "default",
            }}
            onPointerDown={(event: PointerEvent<SVGSVGElement>) => {
              if (!onRegion || !region) return;
              event.currentTarget.setPointerCapture(event.pointerId);
              const here = at(event);
              setStart({ at: here, moves: inside(region, here) ? region : null });
            }}
            onPointerMove={(event: PointerEvent<SVGSVGElement>) => {
              if (!onRegion || !start) return;
              const [x, y] = at(event);
              if (start.moves)
                onRegion({
                  x: start.moves.x + x - start.at[0],
                  y: start.moves.y + y - start.at[1],
                });
              else onRegion(between(start.at, [x, y]));
            }}
            onPointerUp={() => setStart(null)}
          >
            {region && (
              <Lined unit={unit}>
                <rect x={region.x} y={region.y} width={region.width} height={region.height} />
                {marks.map(([x, y], i) => (
                  <rect
                    key={i}
                    x={x - region.mark / 2}
                    y={y - region.mark / 2}
                    width={Math.max(region.mark, unit * 2)}
                    height={Math.max(region.mark, unit * 2)}
                  />
                ))}
              </Lined>
            )}
            {!region &&
              placed.map((row) => (
                <g
                  key={row.row}
                  onClick={() => onChoose(row)}
                  style={{ cursor: "pointer" }}
                  aria-label={row.name}
                >
                  <circle cx={row.place?.[0]} cy={row.place?.[1]} r={unit * 6} fill="transparent" />
                  <Lined unit={unit}>
                    <circle cx={row.place?.[0]} cy={row.place?.[1]} r={unit * 2.5} />
                  </Lined>
                </g>
              ))}
            {!region && shownPlace && (
              <Lined unit={unit * 1.6}>
                <circle cx={shownPlace[0]} cy={shownPlace[1]} r={unit * 8} />
              </Lined>
            )}
          </Box>
        </Box>
      </Box>
    </Box>
  );
}

/** Lines that stand out on every colour: white on black. */
function Lined({ unit, children }: { unit: number; children: React.ReactNode }) {
  return (
    <>
      <g fill="none" stroke="#000000" strokeWidth={unit * 2.4}>
        {children}
      </g>
      <g fill="none" stroke="#ffffff" strokeWidth={unit}>
        {children}
      </g>
    </>
  );
}
