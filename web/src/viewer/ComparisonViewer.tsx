import { Box, ButtonBase, Divider, Menu, MenuItem, Typography } from "@mui/material";
import { useMemo, useRef, useState } from "react";

import type { Destination, Job } from "../api";
import type { RecipeControl } from "../jobs/useRecipe";
import { useCommands } from "../shell/useCommands";
import { INTENT_NAMES } from "../stages/wording";
import { SURROUNDS, type Surround } from "../theme";
import { type Camera, held, type Size, wholePicture } from "./geometry";
import type { Look } from "./look";
import { Pane } from "./Pane";
import type { Pointer } from "./usePointer";
import { useSize } from "./useSize";

interface Props {
  job: Job;
  destination: Destination;
  control: RecipeControl;
  look: Look;
  pointer: Pointer;
  mark: [number, number] | null;
}

/** Original beside press view, locked in pan and zoom; one key flips in place. */
export function ComparisonViewer({ job, destination, control, look, pointer, mark }: Props) {
  const stage = useRef<HTMLDivElement>(null);
  const room = useSize(stage);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [single, setSingle] = useState(false);
  const [flipped, setFlipped] = useState(false);
  const [surround, setSurround] = useState<Surround>("mid");
  const [chosen, setChosen] = useState<Camera | null>(null);
  const picture: Size = job.artwork.facts;
  const pane: Size = { width: single ? room.width : Math.floor(room.width / 2), height: room.height };
  const camera = useMemo(
    () => (chosen ? held(chosen, picture, pane) : wholePicture(picture, pane)),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [chosen, picture.width, picture.height, pane.width, pane.height],
  );
  const actual = () => setChosen({ cx: camera.cx, cy: camera.cy, scale: 1 / window.devicePixelRatio });
  useCommands({ flip: () => setFlipped(!flipped), whole: () => setChosen(null), actual });
  const grey = SURROUNDS[surround];
  const proofName = `${destination.condition.name}, ${INTENT_NAMES[control.recipe.intent].toLowerCase()}`;
  const originalName = "Original, as an sRGB screen shows it";
  const shared = { job, destination, control, look, camera, picture, size: pane, onCamera: setChosen, pointer, mark };
  const small = { fontSize: 12, px: 1, height: 24, color: "inherit", border: "1px solid", borderColor: "transparent", "&[aria-pressed=true]": { borderColor: "currentColor" } };
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: "flex", flexDirection: "column", bgcolor: grey.colour, color: grey.ink }}>
      <Box ref={stage} sx={{ flex: 1, minHeight: 0, display: "flex", overflow: "hidden" }}>
        {room.width > 0 && (
          <>
            {!single && <Pane {...shared} kind="original" label={originalName} />}
            <Pane {...shared} kind={flipped ? "original" : "proof"} label={flipped ? originalName : proofName} />
          </>
        )}
      </Box>
      <Box sx={{ flex: "none", height: 32, display: "grid", gridTemplateColumns: single ? "1fr auto" : "1fr 1fr", alignItems: "center", typography: "body2" }}>
        {!single && <Typography variant="body2" noWrap sx={{ pl: 1.75 }}>{originalName}</Typography>}
        <Box sx={{ display: "flex", alignItems: "center", gap: 0.25, pl: 1.75, pr: 1, minWidth: 0, gridColumn: single ? "1 / -1" : undefined }}>
          <Typography variant="body2" noWrap sx={{ flex: 1, minWidth: 0, fontWeight: 650 }} data-testid="proof-caption">{flipped ? originalName : proofName}</Typography>
          <ButtonBase sx={small} aria-pressed={flipped} onClick={() => setFlipped(!flipped)}>Flip (J)</ButtonBase>
          <ButtonBase sx={small} onClick={(e) => setMenu(e.currentTarget)} aria-haspopup="menu">View, {Math.round(camera.scale * window.devicePixelRatio * 100)} %</ButtonBase>
          <Menu anchorEl={menu} open={Boolean(menu)} onClose={() => setMenu(null)}>
            <MenuItem selected={!chosen} onClick={() => { setChosen(null); setMenu(null); }}>Whole picture (W)</MenuItem>
            <MenuItem onClick={() => { actual(); setMenu(null); }}>One pixel to one pixel (Q)</MenuItem>
            <Divider />
            <MenuItem selected={!single} onClick={() => { setSingle(false); setMenu(null); }}>Two panes</MenuItem>
            <MenuItem selected={single} onClick={() => { setSingle(true); setMenu(null); }}>One pane</MenuItem>
            <Divider />
            {Object.entries(SURROUNDS).map(([key, s]) => (
              <MenuItem key={key} selected={key === surround} onClick={() => { setSurround(key as Surround); setMenu(null); }}>Surround: {s.label}</MenuItem>
            ))}
          </Menu>
        </Box>
      </Box>
    </Box>
  );
}
