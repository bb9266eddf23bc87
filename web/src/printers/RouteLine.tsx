import { Box, Typography } from "@mui/material";

import type { ColourDuty, Judgement, MediumSettings } from "../api";
import { STATIONS } from "./words";

interface Props {
  duty: ColourDuty;
  converts: boolean;
  policy: string;
  end: string;
  judgements: Judgement[];
  /** Whether the file leaves Plinto mirrored. */
  mirrors: boolean;
  settings: MediumSettings;
}

interface StationProps {
  name: string;
  fact: string;
  works: boolean;
  absent?: boolean;
  mirrors?: boolean;
}

function Station({ name, fact, works, absent, mirrors }: StationProps) {
  return (
    <Box
      sx={{
        border: 1,
        borderColor: "text.primary",
        borderStyle: absent ? "dashed" : "solid",
        px: 1.25,
        py: 0.75,
        minWidth: 108,
        flex: 1,
        ...(works && { bgcolor: "text.primary", color: "background.paper" }),
        ...(absent && { borderColor: "text.secondary" }),
      }}
    >
      <Typography sx={{ fontWeight: 700 }}>{name}</Typography>
      <Typography variant="body2" sx={{ color: works ? "inherit" : "text.secondary" }}>
        {fact}
      </Typography>
      {mirrors && (
        <Typography variant="body2" sx={{ fontWeight: 650 }}>
          mirrors
        </Typography>
      )}
    </Box>
  );
}

const works = (station: ColourDuty["driver"]) => station === "on" || station === "always";
const stationFact = (station: ColourDuty["driver"]) =>
  ({
    absent: STATIONS.absent,
    off: "colour management off",
    on: "converts",
    always: "converts, cannot be switched off",
  })[station];

const Way = () => (
  <Box
    aria-hidden
    sx={{ alignSelf: "center", width: 22, height: 2, bgcolor: "text.primary", flex: "none" }}
  />
);
const WORDS = { fine: "Fine.", warn: "Mind:", refuse: "Refused:" };

/** The way of a file to the printer: every place that could convert colours, the one that does filled. */
export function RouteLine({ duty, converts, policy, end, judgements, mirrors, settings }: Props) {
  return (
    <Box role="group" aria-label="Who manages colour and mirrors">
      <Box sx={{ display: "flex", alignItems: "stretch" }}>
        <Station
          name="Plinto"
          fact={
            converts
              ? `converts: ${policy}`
              : policy
                ? `leaves colours: ${policy}`
                : "passes files on"
          }
          works={converts}
          mirrors={mirrors}
        />
        <Way />
        <Station
          name="Driver"
          fact={`${stationFact(duty.driver)}${duty.measured_through ? ", measured through it" : ""}`}
          works={works(duty.driver) && !duty.measured_through}
          absent={duty.driver === "absent"}
          mirrors={settings.mirror_driver}
        />
        <Way />
        <Station
          name="RIP"
          fact={stationFact(duty.rip)}
          works={works(duty.rip)}
          absent={duty.rip === "absent"}
        />
        <Way />
        <Station
          name="Prints"
          fact={`${end}${settings.mirror ? ", mirrored" : ""}`}
          works={false}
          mirrors={settings.mirror_machine}
        />
      </Box>
      {judgements.map((j) => (
        <Box
          key={j.reason.text}
          role={j.level === "refuse" ? "alert" : undefined}
          data-level={j.level}
          sx={{
            mt: 0.75,
            pl: 1,
            borderLeft: j.level === "fine" ? 1 : 4,
            borderColor: j.level === "fine" ? "divider" : "text.primary",
          }}
        >
          <Typography>
            <b>{WORDS[j.level]}</b> {j.reason.text} {j.reason.remedy}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
