import { Box, ButtonBase, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Examination, Profile } from "../api";
import { Swatch } from "../plots/Swatch";
import { tagQuery, tagsQuery } from "../queries/profiles";
import { Explained, Notice } from "../ui";
import { cells } from "../ui/cells";
import { labText, number } from "../ui/numbers";

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

/** Which float tables decide the colours, and which are passed over. */
function floatTables(tags: { name: string; used: boolean }[]): string {
  const names = (used: boolean) =>
    tags
      .filter((t) => t.used === used)
      .map((t) => t.name)
      .join(", ");
  return [
    names(true) &&
      `Colours are computed by its float tables (${names(true)}), which go before the others; a program that does not read them may print other colours.`,
    names(false) &&
      `Not used: ${names(false)}, which cannot be read or that no intent asks for; the tables beside them are used in their place.`,
  ]
    .filter(Boolean)
    .join(" ");
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
        ; {String(found.holds.copyright).replace(/\.$/, "") || "no copyright stated"}.
      </Typography>
      {float.length > 0 && (
        <Typography role="status" sx={{ mt: 1, fontWeight: 650 }}>
          {floatTables(float)}
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
