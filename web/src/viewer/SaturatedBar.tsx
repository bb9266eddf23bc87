import { Box } from "@mui/material";

import type { PaneView } from "./layouts";
import type { Look } from "./look";
import { sourceOf, viewUrl } from "./viewUrl";

export const BAR = 42;

interface Props {
  view: PaneView;
  look: Look;
  width: number;
  height?: number;
}

/** The outermost colours of the artwork's space as the pane above shows its picture. */
export function SaturatedBar({ view, look, width, height = BAR }: Props) {
  const original = view.kind === "original";
  const dense = Math.min(2, window.devicePixelRatio);
  const url = viewUrl({
    destination: view.destination,
    artwork: view.artwork,
    box: { x: 0, y: 0, w: 1, h: 1 },
    columns: Math.max(1, Math.min(4096, Math.round((width - 28) * dense))),
    rows: Math.round((height - 6) * dense),
    colours: original ? sourceOf(view.colours) : view.colours,
    look,
    pane: view.kind,
    bar: true,
    ...(!original && view.moment !== undefined && { moment: view.moment }),
  });
  return (
    <Box sx={{ height, px: 1.75, pt: 0.75 }}>
      <img
        src={url}
        alt={`Saturated colours, ${view.label}`}
        draggable={false}
        style={{ display: "block", width: width - 28, height: height - 6 }}
      />
    </Box>
  );
}
