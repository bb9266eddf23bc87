import { Box, ButtonBase, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask, type Destination } from "../api";
import { Histogram, InkBars, InkRampPlot } from "../plots";
import { keys } from "../queries/keys";
import type { RecipeControl } from "../recipe";
import { Explained, rove } from "../ui";
import { hueColour, HUES } from "./corrections/hueNames";
import { useInkFigures } from "./inks/useInkFigures";

interface Props {
  destination: Destination;
  control: RecipeControl;
}

const TALL = 900;

/** Whether the plots are open: as last time, else where the window leaves the pictures enough room. */
function useStripOpen(): [boolean, (open: boolean) => void] {
  const [open, setOpen] = useState(
    () =>
      (localStorage.getItem("plinto.separation") ?? (window.innerHeight >= TALL ? "yes" : "no")) ===
      "yes",
  );
  return [
    open,
    (next) => {
      localStorage.setItem("plinto.separation", next ? "yes" : "no");
      setOpen(next);
    },
  ];
}

const SHOWN = ["greys", ...HUES.map((h) => h.name)];

/** The separation of the greys or of a hue, live; tone values and mean coverage of every plate. */
export function InkStrip({ destination, control }: Props) {
  const [ramp, setRamp] = useState("greys");
  const [open, setOpen] = useStripOpen();
  const path = { id: destination.id };
  const changes = control.colours;
  const hue = HUES.find((h) => h.name === ramp)?.hue;
  const axis = useQuery({
    queryKey: [...keys.ramp, destination.id, destination.recipe.destination, ramp, changes],
    queryFn: ({ signal }) =>
      ask(
        hue === undefined
          ? api.GET("/api/destinations/{id}/neutral", {
              params: { path, query: { changes } },
              signal,
            })
          : api.GET("/api/destinations/{id}/ramp", {
              params: { path, query: { hue, changes } },
              signal,
            }),
      ),
    placeholderData: keepPreviousData,
    enabled: open,
  });
  const figures = useInkFigures(destination);
  const bar = (
    <Box sx={{ display: "flex", alignItems: "center", gap: 2, height: 26 }}>
      <ButtonBase
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{ fontSize: 12.5, fontWeight: 650, gap: 0.75 }}
      >
        <Box
          aria-hidden
          component="span"
          sx={{ fontSize: 9, transform: open ? "rotate(90deg)" : "none" }}
        >
          ▶
        </Box>
        Separation
      </ButtonBase>
      {!open && figures.data && (
        <Typography variant="body2">
          <Explained of="coverage">
            Mean{" "}
            {Object.entries(figures.data.coverage)
              .map(([n, v]) => `${n} ${v.toFixed(1)}`)
              .join("  ")}{" "}
            %
          </Explained>
        </Typography>
      )}
    </Box>
  );
  if (!open)
    return (
      <Box
        component="section"
        aria-label="Separation"
        sx={{ flex: "none", px: 1.75, borderTop: 1, borderColor: "divider" }}
      >
        {bar}
      </Box>
    );
  return (
    <Box
      component="section"
      aria-label="Separation"
      sx={{
        flex: "none",
        height: 188,
        display: "flex",
        gap: 2,
        px: 1.75,
        borderTop: 1,
        borderColor: "divider",
        overflow: "hidden",
      }}
    >
      <Box sx={{ flex: "none", width: 98 }}>
        {bar}
        <Box
          role="radiogroup"
          onKeyDown={rove}
          aria-label="Ramp shown"
          sx={{ display: "flex", flexDirection: "column" }}
        >
          {SHOWN.map((name) => {
            const own = HUES.find((h) => h.name === name);
            return (
              <ButtonBase
                key={name}
                role="radio"
                aria-checked={name === ramp}
                tabIndex={name === ramp ? 0 : -1}
                onClick={() => setRamp(name)}
                sx={{
                  justifyContent: "flex-start",
                  gap: 0.75,
                  height: 16.5,
                  px: 0.5,
                  fontSize: 11.5,
                  fontWeight: name === ramp ? 700 : 450,
                  ...(name === ramp && { bgcolor: "text.primary", color: "background.paper" }),
                }}
              >
                <Box
                  aria-hidden
                  sx={{ width: 8, height: 8, bgcolor: own ? hueColour(own.hue) : "#777777" }}
                />
                {name}
              </ButtonBase>
            );
          })}
        </Box>
      </Box>
      {axis.data && (
        <InkRampPlot
          axis={axis.data}
          label={ramp === "greys" ? "Inks along the grey axis" : `Inks along ${ramp}`}
        />
      )}
      {figures.data && <Histogram bins={figures.data.histogram} />}
      <Box sx={{ flex: 1, minWidth: 110, maxWidth: 240 }}>
        <Typography variant="h2" sx={{ mb: 0.5 }}>
          <Explained of="coverage">Mean, %</Explained>
        </Typography>
        {figures.data && (
          <div data-explained="coverage">
            <InkBars inks={figures.data.coverage} />
          </div>
        )}
      </Box>
    </Box>
  );
}
