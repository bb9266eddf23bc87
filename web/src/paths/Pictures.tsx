import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";

import type { Followed, FollowedRow, SwatchList } from "../api";
import { DISTANCE_END, DISTANCE_STEPS } from "../plots/distance";
import { jobQuery } from "../queries/jobs";
import {
  AS_LISTED,
  followedQuery,
  type Following,
  MOST_ROWS,
  pictureAddress,
  type Rows,
} from "../queries/paths";
import { Choice, Notice, number } from "../ui";
import { useCommands } from "../ui/useCommands";
import { type Camera, held, type Size, useSize, wholePicture } from "../viewer";
import { BAR, BarColour, DeviceBar } from "./DeviceBar";
import { firstRegion, type Region, within } from "./region";
import { RegionForm } from "./RegionForm";
import { StepPane } from "./StepPane";
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
const CAPTION = 22;
const GAP = 8;

/** The picture after the two compared steps, or the map of their difference; the chosen colour's place;
 * a bar of the device's outermost colours; a region with a grid of marks to take a list from. */
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
  const stage = useRef<HTMLDivElement>(null);
  const room = useSize(stage);
  const [shown, setShown] = useState<keyof typeof SHOWN>("pair");
  const [region, setRegion] = useState<Region | null>(null);
  const [bar, setBar] = useState(false);
  const [barred, setBarred] = useState(0);
  const [aimed, setAimed] = useState<Camera | null>(null);
  const found = useQuery(jobQuery(job));
  const facts = found.data?.artwork.facts;
  const marked = useQuery({
    ...followedQuery(following, AS_LISTED, 0, MOST_ROWS),
    enabled: following.list !== null,
  });
  const compared = first !== second;
  const outermost = useQuery({
    ...followedQuery(
      { ...following, list: null, job: null, bar: true },
      compared ? { ...AS_LISTED, first, second, formula } : AS_LISTED,
      0,
      MOST_ROWS,
    ),
    enabled: bar,
  });
  const picture: Size = { width: facts?.width ?? 1, height: facts?.height ?? 1 };
  const map = shown === "map" && compared;
  const panes: (number | null)[] = map ? [null] : [...new Set([first, second])];
  // Two wide pictures are larger above each other.
  const stacked = picture.width > picture.height;
  const [across, down] = stacked ? [1, panes.length] : [panes.length, 1];
  const patches = bar ? (outermost.data?.rows ?? []) : [];
  const pane: Size = {
    width: Math.floor((room.width - GAP * (across - 1)) / across) - (patches.length ? BAR : 0),
    height: Math.floor((room.height - GAP * (down - 1)) / down) - CAPTION,
  };
  const camera = useMemo(
    () => (aimed ? held(aimed, picture, pane) : wholePicture(picture, pane)),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [aimed, picture.width, picture.height, pane.width, pane.height],
  );
  const actual = () => setAimed({ ...camera, scale: 1 / window.devicePixelRatio });
  useCommands({ whole: () => setAimed(null), actual });
  if (found.error) return <Notice problem={found.error} />;
  const put = (change: Partial<Region>) =>
    setRegion((old) => old && within({ ...old, ...change }, picture.width, picture.height));
  const placed = (marked.data?.rows ?? []).filter((r) => r.place);
  const patch = patches[Math.min(barred, patches.length - 1)];
  return (
    <Box sx={{ display: "flex", gap: 2, minHeight: 0, flex: 1 }}>
      <Box
        ref={stage}
        sx={{
          flex: 1,
          minWidth: 0,
          minHeight: 240,
          overflow: "hidden",
          display: "flex",
          flexDirection: stacked ? "column" : "row",
          gap: `${GAP}px`,
        }}
      >
        {facts &&
          pane.width > 0 &&
          pane.height > 0 &&
          panes.map((step) => {
            const title =
              step === null
                ? `${first + 1} to ${second + 1}, ${SHORT[formula]}`
                : `${step + 1}: ${report.steps[step]?.name ?? ""}`;
            return (
              <Box key={step ?? "map"} sx={{ flex: "none" }}>
                <Typography variant="body2" noWrap sx={{ height: CAPTION, width: pane.width }}>
                  {title}
                </Typography>
                <Box sx={{ display: "flex" }}>
                  {patch && (
                    <DeviceBar
                      label={`Outermost colours, ${title}`}
                      rows={patches}
                      step={step}
                      height={pane.height}
                      chosen={patch.row}
                      onChoose={setBarred}
                    />
                  )}
                  <StepPane
                    title={title}
                    address={(part) =>
                      pictureAddress(
                        following,
                        job,
                        step === null ? { first, second, formula } : { step },
                        part,
                      )
                    }
                    picture={picture}
                    size={pane}
                    camera={camera}
                    onCamera={setAimed}
                    region={region}
                    placed={placed}
                    chosen={chosen}
                    onChoose={onChoose}
                    onRegion={region ? put : null}
                  />
                </Box>
              </Box>
            );
          })}
      </Box>
      <Box sx={{ width: 214, flex: "none", overflow: "auto" }}>
        {compared && <Choice label="Shown" value={shown} options={SHOWN} onChange={setShown} />}
        {map && (
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
        <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, mt: 1 }}>
          <Button aria-pressed={!aimed} onClick={() => setAimed(null)}>
            Whole
          </Button>
          <Button onClick={actual}>100 %</Button>
          <Typography variant="body2" role="status" aria-label="Size of the picture">
            {number(camera.scale * window.devicePixelRatio * 100, 0)} %
          </Typography>
        </Box>
        <Box sx={{ borderTop: 1, borderColor: "divider", mt: 1.5, pt: 1 }}>
          <Button aria-pressed={bar} onClick={() => setBar(!bar)}>
            Outermost colours beside it
          </Button>
          {bar && outermost.error && <Notice problem={outermost.error} />}
          {patch && <BarColour row={patch} report={report} first={first} second={second} />}
        </Box>
        <Box sx={{ borderTop: 1, borderColor: "divider", mt: 1.5, pt: 1 }}>
          {region === null ? (
            <Button onClick={() => setRegion(firstRegion(picture.width, picture.height))}>
              Take colours from a region…
            </Button>
          ) : (
            <RegionForm
              job={job}
              region={region}
              width={picture.width}
              height={picture.height}
              onChange={put}
              onLeave={() => setRegion(null)}
              onTaken={onTaken}
            />
          )}
        </Box>
      </Box>
    </Box>
  );
}
