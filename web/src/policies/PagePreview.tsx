import { Box, Typography } from "@mui/material";
import { useState } from "react";

import type { Said, Spot } from "../api";

const WIDE = 210;

/** What is shown on its page: an object, or the place of a finding. */
export interface Spotted {
  page: number;
  box?: Spot["box"] | null;
  notes: Said[];
}

interface SideProps {
  run: number;
  side: "meant" | "printed";
  label: string;
  object: Spotted;
}

/** One page with the object's place marked. */
function Side({ run, side, label, object }: SideProps) {
  const [points, setPoints] = useState<[number, number] | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const src = `/api/policy-runs/${run}/pages/${object.page}.png?side=${side}&edge=700`;
  const read = async () => {
    const answer = await fetch(src);
    const [w = 595, h = 842] = (answer.headers.get("X-Page-Size") ?? "").split(" ").map(Number);
    setPoints([w || 595, h || 842]);
  };
  const explain = async () => {
    const answer = await fetch(src);
    const problem = (await answer.json().catch(() => null)) as { title?: string } | null;
    setFailed(problem?.title ?? "This page could not be drawn.");
  };
  const [left = 0, bottom = 0, right = 0, top = 0] = object.box ?? [];
  const k = points ? WIDE / points[0] : 0;
  return (
    <Box sx={{ mb: 1 }}>
      <Typography variant="body2" sx={{ fontWeight: 650 }}>
        {label}
      </Typography>
      {failed ? (
        <Typography role="alert" variant="body2" sx={{ border: 1, borderColor: "divider", p: 1 }}>
          {failed}
        </Typography>
      ) : (
        <Box
          sx={{
            position: "relative",
            border: 1,
            borderColor: "divider",
            bgcolor: "#777777",
            minHeight: 60,
          }}
        >
          <img
            src={src}
            alt={label}
            data-side={side}
            style={{ width: WIDE, display: "block" }}
            onLoad={() => void read()}
            onError={() => void explain()}
          />
          {object.box && points && (
            <Box
              data-testid="object-mark"
              sx={{
                position: "absolute",
                left: left * k - 3,
                top: (points[1] - top) * k - 3,
                width: Math.max(8, (right - left) * k + 6),
                height: Math.max(8, (top - bottom) * k + 6),
                border: "2px solid #000",
                outline: "1px solid #fff",
              }}
            />
          )}
        </Box>
      )}
    </Box>
  );
}

/** The page an object stands on, as its colours are meant and as it will print, its place marked. */
export function PagePreview({ run, object }: { run: number; object: Spotted }) {
  return (
    <Box role="region" aria-label="On the page" sx={{ width: WIDE + 2, flex: "none" }}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Page {object.page}
      </Typography>
      <Side run={run} side="meant" label="As its colours are meant" object={object} />
      <Side run={run} side="printed" label="As it prints" object={object} />
      {object.notes.map(({ text }) => (
        <Typography key={text} variant="body2" sx={{ mt: 0.5, fontWeight: 650 }}>
          {text}
        </Typography>
      ))}
      {!object.box && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
          Its place is not known.
        </Typography>
      )}
    </Box>
  );
}
