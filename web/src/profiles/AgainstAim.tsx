import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";

import type { Examination } from "../api";
import { Swatch } from "../plots/Swatch";
import { Explained, labText, number } from "../ui";
import { cells } from "../ui/cells";

type Found = NonNullable<Examination["aim"]>;

const SAID = {
  null: "Nothing is judged: the aim names no tolerance.",
  true: "Everything that is judged holds.",
  false: "The aim is missed.",
} as const;

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
          <Judged
            name="Colours against the aim"
            heads={["Colour", "Aim, L* a* b*", "Printed"]}
            missed="ΔE00"
            judged={judged}
          >
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
                {judged && <Verdict of={c} />}
              </tr>
            ))}
          </Judged>
        )}
        {tones.length > 0 && (
          <Judged
            name="Tones against the aim"
            heads={["Tone", "Aim", "Printed"]}
            missed="Missed by"
            judged={judged}
          >
            {tones.map((t) => (
              <tr key={`${t.ink} ${t.at}`} data-explained="aim_difference">
                <td>
                  {t.ink} {number(t.at, 0)} %
                </td>
                <td>{signed(t.aim)}</td>
                <td>{signed(t.printed)}</td>
                <td>{signed(t.missed)}</td>
                {judged && <Verdict of={t} />}
              </tr>
            ))}
          </Judged>
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

interface JudgedProps {
  name: string;
  heads: string[];
  /** What the column of differences is called. */
  missed: string;
  /** Whether anything has a tolerance. */
  judged: boolean;
  children: ReactNode;
}

const Judged = ({ name, heads, missed, judged, children }: JudgedProps) => (
  <Box component="table" sx={cells} aria-label={name}>
    <thead>
      <tr>
        {heads.map((head) => (
          <th key={head}>{head}</th>
        ))}
        <th>
          <Explained of="aim_difference">{missed}</Explained>
        </th>
        {judged && <th>Allowed</th>}
        {judged && <th />}
      </tr>
    </thead>
    <tbody>{children}</tbody>
  </Box>
);

const Verdict = ({ of }: { of: { tolerance: number | null; holds: boolean | null } }) => (
  <>
    <td>{of.tolerance === null ? "not judged" : number(of.tolerance)}</td>
    <Box component="td" sx={{ fontWeight: of.holds === false ? 700 : 400 }}>
      {of.holds === null ? "" : of.holds ? "holds" : "missed"}
    </Box>
  </>
);
