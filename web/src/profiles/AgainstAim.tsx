import { Box, Typography } from "@mui/material";

import type { Examination } from "../api";
import { Swatch } from "../plots/Swatch";
import { Explained, labText, number } from "../ui";
import { cells } from "./cells";

type Found = NonNullable<Examination["aim"]>;

const SAID = {
  null: "Nothing is judged: the aim names no tolerance.",
  true: "Everything that is judged holds.",
  false: "The aim is missed.",
} as const;
const held = (holds: boolean | null) => (holds === null ? "" : holds ? "holds" : "missed");

/** Every colour and tone of an aim beside what the profile prints. */
export function AgainstAim({ aim }: { aim: Found }) {
  const colours = aim.colours ?? [];
  const tones = aim.tones ?? [];
  const judged = [...colours, ...tones].some((r) => r.tolerance !== null);
  const missed = [...colours, ...tones].filter((r) => r.holds === false).length;
  return (
    <Box sx={{ mt: 2 }} role="group" aria-label="Against the aim">
      <Typography variant="h3">
        Against {aim.name}
        {aim.source && `, ${aim.source}`}
      </Typography>
      <Typography sx={{ mt: 0.5, fontWeight: aim.holds === false ? 700 : 400 }}>
        {SAID[String(aim.holds ?? null) as keyof typeof SAID]}
        {missed > 0 && ` ${missed} of ${colours.length + tones.length} lie beyond the tolerance.`}
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, mt: 0.5, alignItems: "flex-start" }}>
        {colours.length > 0 && (
          <Box component="table" sx={cells} aria-label="Colours against the aim">
            <thead>
              <tr>
                <th>Colour</th>
                <th>Aim, L* a* b*</th>
                <th>Printed</th>
                <th>
                  <Explained of="aim_difference">ΔE00</Explained>
                </th>
                {judged && <th>Allowed</th>}
                {judged && <th />}
              </tr>
            </thead>
            <tbody>
              {colours.map((c) => (
                <tr key={c.name} data-explained="aim_difference">
                  <td>{c.name}</td>
                  <td>
                    <Swatch lab={c.aim} />
                    {labText(c.aim)}
                  </td>
                  <td>
                    <Swatch lab={c.printed} />
                    {labText(c.printed)}
                  </td>
                  <td>{number(c.de00)}</td>
                  {judged && <td>{c.tolerance === null ? "not judged" : number(c.tolerance)}</td>}
                  {judged && <Verdict holds={c.holds} />}
                </tr>
              ))}
            </tbody>
          </Box>
        )}
        {tones.length > 0 && (
          <Box component="table" sx={cells} aria-label="Tones against the aim">
            <thead>
              <tr>
                <th>Tone</th>
                <th>Aim</th>
                <th>Printed</th>
                <th>
                  <Explained of="aim_difference">Missed by</Explained>
                </th>
                {judged && <th>Allowed</th>}
                {judged && <th />}
              </tr>
            </thead>
            <tbody>
              {tones.map((t) => (
                <tr key={`${t.ink} ${t.at}`} data-explained="aim_difference">
                  <td>
                    {t.ink} {number(t.at, 0)} %
                  </td>
                  <td>{signed(t.aim)}</td>
                  <td>{signed(t.printed)}</td>
                  <td>{signed(t.missed)}</td>
                  {judged && <td>{t.tolerance === null ? "not judged" : number(t.tolerance)}</td>}
                  {judged && <Verdict holds={t.holds} />}
                </tr>
              ))}
            </tbody>
          </Box>
        )}
      </Box>
      {(aim.left ?? []).length > 0 && (
        <Typography color="text.secondary" sx={{ mt: 0.5 }}>
          Not in this profile: {(aim.left ?? []).join(", ")}.
        </Typography>
      )}
    </Box>
  );
}

const signed = (v: number) => `${v > 0 ? "+" : ""}${number(v)}`;

const Verdict = ({ holds }: { holds: boolean | null }) => (
  <Box component="td" sx={{ fontWeight: holds === false ? 700 : 400 }}>
    {held(holds)}
  </Box>
);
