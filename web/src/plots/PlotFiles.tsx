import { Box, ButtonBase } from "@mui/material";
import type { RefObject } from "react";

import { save } from "./save";

interface Props {
  name: string;
  svg: RefObject<SVGSVGElement | null>;
  rows: () => (string | number)[][];
}

const fileOf = (name: string, suffix: string) =>
  `${name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")}.${suffix}`;

/** A plot as SVG or its values as CSV. */
export function PlotFiles({ name, svg, rows }: Props) {
  const drawing = () => {
    if (!svg.current) return;
    const copy = svg.current.cloneNode(true) as SVGSVGElement;
    copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
    copy.style.color = "#1b1b1b";
    copy.style.fontFamily = "sans-serif";
    save(fileOf(name, "svg"), new XMLSerializer().serializeToString(copy), "image/svg+xml");
  };
  const button = { fontSize: 11, px: 0.5, color: "text.secondary", textDecoration: "underline" };
  return (
    <Box sx={{ position: "absolute", right: 0, bottom: -2, display: "flex" }}>
      <ButtonBase sx={button} aria-label={`${name} as SVG`} onClick={drawing}>
        SVG
      </ButtonBase>
      <ButtonBase
        sx={button}
        aria-label={`${name} as CSV`}
        onClick={() =>
          save(
            fileOf(name, "csv"),
            rows()
              .map((r) => r.join(","))
              .join("\n") + "\n",
            "text/csv",
          )
        }
      >
        CSV
      </ButtonBase>
    </Box>
  );
}
