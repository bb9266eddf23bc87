import { Box, Button, Typography } from "@mui/material";

import type { SpotBuild } from "../api";
import { InkBars } from "../plots";
import { buildText } from "../plots/builds";
import { labText, number } from "../ui";
import { Pair } from "./Pair";

interface Props {
  build: SpotBuild;
  press: string;
  fine: number;
  onClose: () => void;
}

const COUNT = ["", "One ink", "Two inks", "Three inks", "Four inks"];

/** One colour on one press, large: which way it misses, and what fewer or more inks would make of it. */
export function OneBuild({ build, press, fine, onClose }: Props) {
  const { best } = build;
  return (
    <Box
      role="group"
      aria-label={`${build.name} on ${press}`}
      sx={{
        px: 2,
        py: 1.5,
        borderTop: 1,
        borderColor: "divider",
        maxHeight: 300,
        overflow: "auto",
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center" }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {build.name} on {press}
        </Typography>
        <Button onClick={onClose}>Close</Button>
      </Box>
      <Typography sx={{ mt: 0.5 }}>
        ΔE00 {number(best.de00)}
        {best.de00 > fine ? ", beyond what is fine" : ""}. The print is {build.way}.
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, mt: 1, alignItems: "flex-start" }}>
        <Box>
          <Pair aim={build.aim} printed={best.lab} size={110} />
          <Typography variant="body2">asked {labText(build.aim)}</Typography>
          <Typography variant="body2">printed {labText(best.lab)}</Typography>
        </Box>
        <Box sx={{ width: 220 }}>
          <InkBars inks={best.inks} />
          <Typography variant="body2" sx={{ mt: 0.5 }}>
            ΔL* {number(build.lightness)} ΔC* {number(build.chroma)} ΔH* {number(build.hue)}
          </Typography>
        </Box>
        <Box
          component="table"
          aria-label="By the number of inks"
          sx={{ fontSize: 12.5, "& td, & th": { textAlign: "left", pr: 2, py: 0.25 } }}
        >
          <tbody>
            {build.counts.map((one, i) => (
              <Box
                component="tr"
                key={i}
                sx={{
                  fontWeight:
                    one.de00 === best.de00 && one.lab.join() === best.lab.join() ? 700 : 400,
                }}
              >
                <td>{COUNT[i + 1]}</td>
                <td>
                  <Pair aim={build.aim} printed={one.lab} size={18} />
                </td>
                <td>ΔE00 {number(one.de00)}</td>
                <td>{buildText(one.inks)}</td>
              </Box>
            ))}
          </tbody>
        </Box>
      </Box>
    </Box>
  );
}
