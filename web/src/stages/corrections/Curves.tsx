import { Box, Button, ButtonBase, Typography } from "@mui/material";
import { useState } from "react";

import { type CurvePoints, pairsOf } from "../../api";
import { CurveEditor, isStraight, STRAIGHT } from "../../plots";
import { Explained } from "../../ui";
import { without } from "../without";
import type { EditorProps } from "./CorrectionEditor";

const CHANNELS: Record<string, [string, string][]> = {
  RGB: [
    ["R", "#b3261e"],
    ["G", "#1e7d32"],
    ["B", "#1f4fb5"],
  ],
  CMYK: [
    ["C", "#0090c5"],
    ["M", "#cf1f7c"],
    ["Y", "#b59d00"],
    ["K", "#1b1b1b"],
  ],
};

/** Tone curves on the artwork's own numbers: the master first, then a channel alone. */
export function Curves({ job, correction, onLive, onRest }: EditorProps) {
  const [channel, setChannel] = useState("all");
  const curves = correction.curves ?? { master: null, channels: {} };
  const names = CHANNELS[job.artwork.facts.space] ?? [];
  const points: CurvePoints = pairsOf(
    (channel === "all" ? curves.master : curves.channels[channel]) ?? STRAIGHT,
  );
  const withPoints = (next: CurvePoints | null) => {
    if (channel === "all") return { curves: { ...curves, master: next } };
    const others = without(curves.channels, channel);
    return { curves: { ...curves, channels: next ? { ...others, [channel]: next } : others } };
  };
  const cell = {
    height: 26,
    minWidth: 32,
    px: 0.75,
    fontSize: 12,
    border: 1,
    borderColor: "text.secondary",
    mr: "-1px",
  };
  const button = (key: string, label: string, changed: boolean) => (
    <ButtonBase
      key={key}
      aria-pressed={channel === key}
      onClick={() => setChannel(key)}
      sx={{
        ...cell,
        fontWeight: changed ? 750 : 500,
        ...(channel === key && { bgcolor: "text.primary", color: "background.paper" }),
      }}
    >
      {label}
    </ButtonBase>
  );
  return (
    <Box sx={{ mt: 1 }}>
      <Typography>
        <Explained text="Curves act on the artwork's own numbers before anything else. The master acts on every channel, then each channel's own curve.">
          Curves
        </Explained>
      </Typography>
      <Box sx={{ display: "flex", mt: 0.25 }}>
        {button("all", "Master", !isStraight(curves.master))}
        {names.map(([n]) => button(n, n, !isStraight(curves.channels[n])))}
        <Box sx={{ flex: 1 }} />
        <Button
          size="small"
          sx={{ px: 1, minWidth: 0 }}
          disabled={isStraight(points) && points.length === 2}
          onClick={() => onRest(withPoints(null))}
        >
          Straight
        </Button>
      </Box>
      <CurveEditor
        label={channel === "all" ? "Master curve" : `Curve of ${channel}`}
        points={points}
        colour={names.find(([n]) => n === channel)?.[1] ?? "currentColor"}
        onLive={(next) => onLive(withPoints(next))}
        onRest={(next) => onRest(withPoints(next))}
      />
    </Box>
  );
}
