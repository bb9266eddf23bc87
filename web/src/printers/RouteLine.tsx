import { Box, Typography } from "@mui/material";

import type { ColourDuty, Judgement } from "../api";
import { STATIONS } from "./words";

interface Props {
  duty: ColourDuty;
  converts: boolean;
  policy: string;
  end: string;
  judgements: Judgement[];
}

interface StationProps {
  name: string;
  fact: string;
  works: boolean;
  absent?: boolean;
}

function Station({ name, fact, works, absent }: StationProps) {
  return (
    <Box sx={{ border: 1, borderColor: "text.primary", borderStyle: absent ? "dashed" : "solid", px: 1.25, py: 0.75, minWidth: 108, flex: 1, ...(works && { bgcolor: "text.primary", color: "background.paper" }), ...(absent && { borderColor: "text.secondary" }) }}>
      <Typography sx={{ fontWeight: 700 }}>{name}</Typography>
      <Typography variant="body2" sx={{ color: works ? "inherit" : "text.secondary" }}>{fact}</Typography>
    </Box>
  );
}

const Way = () => <Box aria-hidden sx={{ alignSelf: "center", width: 22, height: 2, bgcolor: "text.primary", flex: "none" }} />;
const WORDS = { fine: "Fine.", warn: "Mind:", refuse: "Refused:" };

/** The way of a file to the printer: every place that could convert colours, the one that does filled. */
export function RouteLine({ duty, converts, policy, end, judgements }: Props) {
  return (
    <Box role="group" aria-label="Who manages colour">
      <Box sx={{ display: "flex", alignItems: "stretch" }}>
        <Station name="Plinto" fact={converts ? `converts: ${policy}` : policy ? `leaves colours: ${policy}` : "passes files on"} works={converts} />
        <Way />
        <Station name="Driver" fact={duty.driver === "on" ? "converts" : duty.driver === "off" ? "colour management off" : "there is none"} works={duty.driver === "on"} absent={duty.driver === "absent"} />
        <Way />
        <Station name="RIP" fact={duty.rip === "on" ? "converts" : duty.rip === "off" ? "colour management off" : STATIONS.absent} works={duty.rip === "on"} absent={duty.rip === "absent"} />
        <Way />
        <Station name="Prints" fact={end} works={false} />
      </Box>
      {judgements.map((j) => (
        <Box key={j.reason} role={j.level === "refuse" ? "alert" : undefined} data-level={j.level} sx={{ mt: 0.75, pl: 1, borderLeft: j.level === "fine" ? 1 : 4, borderColor: j.level === "fine" ? "divider" : "text.primary" }}>
          <Typography><b>{WORDS[j.level]}</b> {j.reason} {j.remedy}</Typography>
        </Box>
      ))}
    </Box>
  );
}
