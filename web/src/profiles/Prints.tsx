import { Box, Typography } from "@mui/material";

import type { Examination } from "../api";
import { Reading } from "../conditions";
import { Explained } from "../ui";
import { cells } from "../ui/cells";
import { number } from "../ui/numbers";
import { AgainstAim } from "./AgainstAim";
import { ToneCurves } from "./ToneCurves";

/** What it prints: what the intents reach, solids against an aim, tone values. */
export function Prints({ found, name }: { found: Examination; name: string }) {
  if (found.reach.length === 0)
    return (
      <Typography>
        It prints nothing by itself: it is of the class {String(found.holds.class)}, or a way is
        missing. What it holds is listed below.
      </Typography>
    );
  return (
    <Box>
      <Reading
        proposal={{ reach: found.reach, solids: found.solids, tones: found.tones, problems: [] }}
      />
      {found.gamut && (
        <Typography sx={{ mt: 1 }} data-explained="gamut_volume">
          <Explained of="gamut_volume">Gamut volume</Explained>{" "}
          {found.gamut.volume.toLocaleString("en")}, greys from L* {number(found.gamut.darkest)} to{" "}
          {number(found.gamut.lightest)}; most chroma C* {number(found.gamut.most_chroma)} at L*{" "}
          {number(found.gamut.at_lightness)}, hue {number(found.gamut.at_hue, 0)}°.
        </Typography>
      )}
      {found.aim && <AgainstAim aim={found.aim} />}
      {found.tones.length > 0 && (
        <Box sx={{ mt: 2 }}>
          <Typography variant="h3">
            <Explained of="tvi">Tone value increase</Explained>
          </Typography>
          <Box
            sx={{ display: "flex", flexWrap: "wrap", gap: 3, alignItems: "flex-start", mt: 0.5 }}
          >
            <ToneCurves tones={found.tones} name={name} aims={found.aim?.tones ?? []} />
            <Box component="table" sx={cells} aria-label="Tone value increase">
              <thead>
                <tr>
                  <th>Ink</th>
                  <th>at 50 %</th>
                  <th>at most</th>
                  <th>vanishes below</th>
                </tr>
              </thead>
              <tbody>
                {found.tones.map((t) => (
                  <tr key={t.name} data-explained="tvi">
                    <td>{t.name}</td>
                    <td>{number(t.increase_50)} %</td>
                    <td>
                      {number(t.increase_max)} % at {number(t.increase_at, 0)}
                    </td>
                    <td>{t.vanishes == null ? "prints all" : `${number(t.vanishes, 2)} %`}</td>
                  </tr>
                ))}
              </tbody>
            </Box>
          </Box>
        </Box>
      )}
    </Box>
  );
}
