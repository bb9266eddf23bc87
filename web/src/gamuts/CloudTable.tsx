import { Box, Typography } from "@mui/material";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";

import type { Cloud, GamutBodyRow } from "../api";
import { labColour } from "../plots/labColour";
import { number, Pick } from "../ui";

interface Props {
  cloud: Cloud;
  bodies: readonly GamutBodyRow[];
  /** Place of the chosen colour among the cloud's points. */
  chosen: number | null;
  onChoose: (place: number) => void;
}

const HIGH = 26;

/** Places of a cloud's points, those first that lie farthest outside a body, or as they are. */
export function ordered(cloud: Cloud, body: number | null): number[] {
  const places = cloud.points.map((_, i) => i);
  if (body === null) return places;
  const far = cloud.far[body] ?? [];
  return places.sort((p, q) => (far[q] ?? 0) - (far[p] ?? 0) || p - q);
}

/** The colours of a picture or list with how far each lies outside every gamut; one is chosen here and in
 * the plots alike. */
export function CloudTable({ cloud, bodies, chosen, onChoose }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const [by, setBy] = useState("0");
  const order = useMemo(
    () => ordered(cloud, bodies[Number(by)] && by !== "" ? Number(by) : null),
    [cloud, bodies, by],
  );
  const virtual = useVirtualizer({
    count: order.length,
    getScrollElement: () => frame.current,
    estimateSize: () => HIGH,
    overscan: 6,
  });
  const current = chosen === null ? -1 : order.indexOf(chosen);
  useEffect(() => {
    if (current >= 0) virtual.scrollToIndex(current);
    // The place alone decides; the virtual list is another one each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current]);
  const go = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const next = order[Math.min(order.length - 1, Math.max(0, current + step))];
    if (next !== undefined) onChoose(next);
  };
  const named = cloud.names.length > 0;
  const columns = `34px ${named ? "minmax(120px, 1.2fr)" : ""} 150px 56px ${bodies.map(() => "minmax(90px, 1fr)").join(" ")}`;
  const grid = { display: "grid", gridTemplateColumns: columns, gap: 1, alignItems: "center" };
  return (
    <Box sx={{ mt: 2.5 }}>
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", mb: 0.5 }}>
        <Typography variant="h2">
          {cloud.points.length} colours of {cloud.name}
        </Typography>
        {bodies.length > 0 && (
          <Pick
            label="Order of the colours"
            value={by}
            options={{
              "": "as they stand",
              ...Object.fromEntries(
                bodies.map((b, i) => [String(i), `farthest outside ${b.name}`]),
              ),
            }}
            onChange={setBy}
          />
        )}
      </Box>
      <Box role="grid" aria-label={`Colours of ${cloud.name}`} aria-rowcount={order.length + 1}>
        <Box
          ref={frame}
          role="rowgroup"
          aria-label="Colours"
          tabIndex={0}
          onKeyDown={go}
          sx={{
            overflow: "auto",
            maxHeight: 9 * HIGH,
            fontSize: 13,
            "&:focus-visible": { outlineOffset: -2 },
          }}
        >
          <Box
            role="row"
            sx={{
              ...grid,
              position: "sticky",
              top: 0,
              zIndex: 1,
              bgcolor: "background.default",
              fontSize: 12,
              fontWeight: 650,
              borderBottom: 1,
              borderColor: "text.primary",
            }}
          >
            <Box role="columnheader" aria-label="Colour" />
            {named && <Box role="columnheader">Name</Box>}
            <Box role="columnheader">{"L*\u2002a*\u2002b*"}</Box>
            <Box role="columnheader">C*</Box>
            {bodies.map((b) => (
              <Box key={b.of} role="columnheader" sx={{ overflow: "hidden", whiteSpace: "nowrap" }}>
                {b.name}
              </Box>
            ))}
          </Box>
          <Box sx={{ height: virtual.getTotalSize(), position: "relative" }}>
            {virtual.getVirtualItems().map((item) => {
              const place = order[item.index] ?? 0;
              const lab = cloud.points[place] ?? [0, 0, 0];
              const mine = place === chosen;
              return (
                <Box
                  key={item.key}
                  role="row"
                  aria-rowindex={item.index + 2}
                  aria-selected={mine}
                  onClick={() => onChoose(place)}
                  sx={{
                    ...grid,
                    position: "absolute",
                    inset: "0 0 auto 0",
                    height: HIGH,
                    transform: `translateY(${item.start}px)`,
                    borderBottom: 1,
                    borderColor: "divider",
                    cursor: "pointer",
                    fontVariantNumeric: "tabular-nums",
                    ...(mine && {
                      bgcolor: "background.paper",
                      boxShadow: (t) => `inset 4px 0 0 ${t.palette.text.primary}`,
                    }),
                  }}
                >
                  <Box role="gridcell" aria-hidden sx={{ pl: 1 }}>
                    <Box sx={{ height: 16, bgcolor: labColour(lab) }} />
                  </Box>
                  {named && (
                    <Typography role="gridcell" component="div" noWrap sx={{ fontSize: 13 }}>
                      {cloud.names[place]}
                    </Typography>
                  )}
                  <Box role="gridcell">{lab.map((v) => number(v)).join("\u2002")}</Box>
                  <Box role="gridcell">{number(Math.hypot(lab[1] ?? 0, lab[2] ?? 0))}</Box>
                  {bodies.map((b, i) => (
                    <Box key={b.of} role="gridcell">
                      {outsideOf(cloud.far[i]?.[place] ?? 0)}
                    </Box>
                  ))}
                </Box>
              );
            })}
          </Box>
        </Box>
      </Box>
    </Box>
  );
}

const outsideOf = (far: number) => (far > 0 ? `ΔE00 ${number(far)} outside` : "inside");
