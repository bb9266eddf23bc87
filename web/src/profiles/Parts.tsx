import { Box, ButtonBase, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Examination, Profile } from "../api";
import { Reading } from "../conditions";
import { Swatch } from "../plots/Swatch";
import { jobsQuery } from "../queries/jobs";
import { pictureTripQuery, tagQuery, tagsQuery } from "../queries/profiles";
import { Explained, Notice, Pick } from "../ui";
import { cells } from "../ui/cells";
import { labText, lostTones, number } from "../ui/numbers";
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

const BANDS = ["0.25", "0.5", "1", "2", "4", "8"];

/** What it gives back: round trip, its histogram and worst colours, smoothness. */
export function GivesBack({ found, profile }: { found: Examination; profile: number }) {
  const [job, setJob] = useState("");
  const jobs = useQuery({ ...jobsQuery, enabled: found.round_trip !== null });
  const ofPicture = useQuery({ ...pictureTripQuery(Number(job), profile), enabled: job !== "" });
  const trip = job ? ofPicture.data : found.round_trip;
  const lost = job ? ofPicture.data?.tones_lost : null;
  const over = (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
      <Typography>Colours</Typography>
      <Pick
        label="Which colours come back"
        width={280}
        value={job}
        options={{
          "": "20,000 printable ones",
          ...Object.fromEntries((jobs.data ?? []).map((j) => [String(j.id), `those of ${j.name}`])),
        }}
        onChange={setJob}
      />
    </Box>
  );
  if (ofPicture.error)
    return (
      <>
        {over}
        <Notice problem={ofPicture.error} />
      </>
    );
  if (job && !trip)
    return (
      <>
        {over}
        <Typography color="text.secondary">Following the picture’s colours…</Typography>
      </>
    );
  if (!trip) return <Typography>A way is missing, so nothing can come back.</Typography>;
  const highest = Math.max(...trip.histogram, 0.001);
  return (
    <Box>
      {over}
      <Typography>
        <Explained of="round_trip">
          {job ? "The picture’s colours, to inks and back" : "Printable colours, to inks and back"}
        </Explained>
        : <b>{number(trip.mean, 2)} ΔE00</b> in the mean, {number(trip.p95, 2)} at 95 %,{" "}
        {number(trip.p99, 2)} at 99 %, {number(trip.max, 2)} at most.
      </Typography>
      {lost && (
        <Typography data-testid="tones-lost" sx={{ mt: 0.5 }}>
          <Explained of="tones_lost">Tones lost</Explained>: {lostTones(lost)}.
        </Typography>
      )}
      <Box
        role="img"
        aria-label="How many colours come back how well"
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(7, 56px)",
          alignItems: "end",
          height: 96,
          mt: 1.5,
        }}
      >
        {trip.histogram.map((share, i) => (
          <Box key={i} data-explained="round_trip" sx={{ textAlign: "center", fontSize: 11 }}>
            {number(share * 100, share < 0.1 ? 1 : 0)} %
            <Box
              sx={{ height: Math.max(1, (share / highest) * 54), bgcolor: "text.primary", mx: 0.5 }}
            />
            {BANDS[i] ? `to ${BANDS[i]}` : "above"}
          </Box>
        ))}
      </Box>
      {found.smoothness && (
        <Typography sx={{ mt: 1.5 }}>
          <Explained of="smoothness">Smoothness</Explained>: along ramps with steps of 1 ΔE
          neighbouring steps of the print differ by {number(found.smoothness.print_p99, 2)} ΔE at 99
          %, inks bend by {number(found.smoothness.ink_p99, 2)} % at 99 %,{" "}
          {number(found.smoothness.ink_max, 1)} % at most.
        </Typography>
      )}
      <Typography variant="h3" sx={{ mt: 1.5, mb: 0.5 }}>
        Colours that come back worst
      </Typography>
      <Box component="table" sx={cells} aria-label="Worst colours">
        <thead>
          <tr>
            <th>Asked</th>
            <th>Printed</th>
            <th>Inks</th>
            <th>ΔE00</th>
          </tr>
        </thead>
        <tbody>
          {trip.worst.map((m, i) => (
            <tr key={i} data-explained="round_trip">
              <td>
                <Swatch lab={m.asked} />
                {labText(m.asked)}
              </td>
              <td>
                <Swatch lab={m.printed} />
                {labText(m.printed)}
              </td>
              <td>
                {Object.entries(m.inks)
                  .map(([n, v]) => `${n} ${number(v, 0)}`)
                  .join("  ")}
              </td>
              <td>{number(m.de00, 2)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

const WEIGHT = { error: "Cannot be trusted", warning: "Look at it", note: "To know" } as const;

/** What is wrong with it, in sentences, the grave ones first. */
export function Wrong({ found }: { found: Examination }) {
  if (found.findings.length === 0)
    return (
      <Typography role="status">
        Nothing was found wrong: neither in its structure nor in greys, totals, paper and round
        trip.
      </Typography>
    );
  return (["error", "warning", "note"] as const).map((weight) => {
    const said = found.findings.filter((f) => f.severity === weight);
    return said.length === 0 ? null : (
      <Box key={weight} role="group" aria-label={WEIGHT[weight]} sx={{ mb: 1.5 }}>
        <Typography variant="h3">{WEIGHT[weight]}</Typography>
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {said.map((f, i) => (
            <Typography component="li" key={i} sx={{ fontWeight: weight === "error" ? 650 : 450 }}>
              {f.sentence}
            </Typography>
          ))}
        </Box>
      </Box>
    );
  });
}

function Curve({ name, values }: { name: string; values: number[] }) {
  return (
    <Box sx={{ textAlign: "center", fontSize: 11 }}>
      <Box
        component="svg"
        viewBox="0 0 100 100"
        role="img"
        aria-label={`Curve ${name}`}
        sx={{
          width: 92,
          border: 1,
          borderColor: "divider",
          color: "text.primary",
          display: "block",
        }}
      >
        <polyline
          points={values
            .map(
              (v, i) =>
                `${((i / (values.length - 1)) * 100).toFixed(1)},${((1 - v) * 100).toFixed(1)}`,
            )
            .join(" ")}
          fill="none"
          stroke="currentColor"
          strokeWidth={2}
        />
      </Box>
      {name}
    </Box>
  );
}

function TagContents({ profile, tag }: { profile: number; tag: string }) {
  const content = useQuery(tagQuery(profile, tag));
  const c = content.data;
  if (content.error) return <Notice problem={content.error} />;
  if (!c) return <Typography>Reading…</Typography>;
  return (
    <Box sx={{ p: 1, bgcolor: "background.default" }}>
      {c.grid.length > 0 && <Typography>Grid {c.grid.join(" × ")}</Typography>}
      {c.numbers.length > 0 && (
        <Typography component="pre" sx={{ m: 0, fontFamily: "inherit", fontSize: 12.5 }}>
          {c.numbers.map((r) => r.join("   ")).join("\n")}
        </Typography>
      )}
      {c.patches.length > 0 && (
        <Box
          sx={{ maxHeight: 300, overflow: "auto", mb: 1 }}
          tabIndex={0}
          role="region"
          aria-label="Embedded measurements"
        >
          <Typography sx={{ mb: 0.5 }}>
            {c.patches.length} patches that it was built from
          </Typography>
          <Box component="table" sx={cells}>
            <thead>
              <tr>
                <th>Device, %</th>
                <th>
                  <Explained of="lab">Lab, D50</Explained>
                </th>
              </tr>
            </thead>
            <tbody>
              {c.patches.map((p, i) => (
                <tr key={i} data-explained="lab">
                  <td>{p.device.map((v) => number(v, 0)).join("  ")}</td>
                  <td>
                    <Swatch lab={p.lab} />
                    {labText(p.lab)}
                  </td>
                </tr>
              ))}
            </tbody>
          </Box>
        </Box>
      )}
      {c.text && (
        <Typography
          component="pre"
          sx={{
            m: 0,
            fontFamily: "inherit",
            fontSize: 12.5,
            whiteSpace: "pre-wrap",
            overflowWrap: "anywhere",
            maxHeight: 260,
            overflow: "auto",
          }}
          tabIndex={0}
        >
          {c.text}
        </Typography>
      )}
      {Object.keys(c.curves).length > 0 && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 0.5 }}>
          {Object.entries(c.curves).map(([n, v]) => (
            <Curve key={n} name={n} values={v} />
          ))}
        </Box>
      )}
    </Box>
  );
}

/** What it holds: header facts and tags with their meaning, each to be opened. */
export function Holds({ profile, found }: { profile: Profile; found: Examination }) {
  const tags = useQuery(tagsQuery(profile.id));
  const [open, setOpen] = useState<string | null>(null);
  const float = (tags.data ?? []).filter((t) => /^(D2B|B2D)/.test(t.name));
  return (
    <Box>
      <Typography>
        Class {String(found.holds.class)}, {String(found.holds.colour_space)} to{" "}
        {String(found.holds.pcs)}, version {String(found.holds.version)},{" "}
        {String(found.holds.created).startsWith("0000")
          ? "undated"
          : `of ${String(found.holds.created)}`}
        ; {String(found.holds.copyright) || "no copyright stated"}.
      </Typography>
      {float.length > 0 && (
        <Typography role="status" sx={{ mt: 1, fontWeight: 650 }}>
          It has float tables ({float.map((t) => t.name).join(", ")}). Plinto uses the ordinary
          tables in their place, so a program that uses the float ones may print other colours.
        </Typography>
      )}
      {tags.error && <Notice problem={tags.error} />}
      <Box
        component="table"
        sx={{ ...cells, mt: 1.5, width: "100%", maxWidth: 860 }}
        aria-label="Tags"
      >
        <thead>
          <tr>
            <th>Tag</th>
            <th>Meaning</th>
            <th>Type</th>
            <th>
              <Explained text="Bytes of the tag in the file.">Size</Explained>
            </th>
            <th />
          </tr>
        </thead>
        <tbody>
          {tags.data?.flatMap((t) => [
            <tr key={t.name}>
              <td>
                <ButtonBase
                  aria-expanded={open === t.name}
                  onClick={() => setOpen(open === t.name ? null : t.name)}
                  sx={{ fontSize: 12.5, fontWeight: 650, textDecoration: "underline" }}
                >
                  {t.name}
                </ButtonBase>
              </td>
              <td>{t.meaning}</td>
              <td>{t.type}</td>
              <td data-explained="">{t.size.toLocaleString("en")}</td>
              <td>{t.required ? "required" : "optional"}</td>
            </tr>,
            ...(open === t.name
              ? [
                  <tr key={`${t.name}-open`}>
                    <td colSpan={5}>
                      <TagContents profile={profile.id} tag={t.name} />
                    </td>
                  </tr>,
                ]
              : []),
          ])}
        </tbody>
      </Box>
    </Box>
  );
}
