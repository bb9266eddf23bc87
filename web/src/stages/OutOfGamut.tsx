import { Box, ButtonBase, Typography } from "@mui/material";

import type { IntentFigures } from "../api";
import { ColourInput, Explained, Pick } from "../ui";
import { WAY_NAMES, WAYS } from "../ui/wording";
import type { Look } from "../viewer";

/** C* of the artwork, of the aim where corrections changed it, and of the print. */
const chromas = (f: IntentFigures["families"][number]) =>
  [f.chroma_original, f.chroma_aim, f.chroma_printed]
    .filter((c, i, all) => i !== 1 || c !== all[0])
    .map((c) => c.toFixed(0))
    .join(" → ");

/** Which families have no near print, and what is done about it; nothing where all have. */
export function noNearPrint(families: IntentFigures["families"]): string | null {
  const far = families.filter((f) => f.far);
  if (far.length === 0) return null;
  const told = far.map(
    (f) =>
      `${f.family} (${f.share.toFixed(0)} % of the picture, ${f.de00_mean.toFixed(0)} ΔE00 off)`,
  );
  return `No near print here for ${told.join(", ")}. One more ink, a spot colour for them, knocking them out or another condition would help; on dark cloth an underbase.`;
}

interface Props {
  figures: IntentFigures | undefined;
  look: Look;
  onLook: (look: Look) => void;
}

/** Too vivid, too dark, too light: how much of the picture, each to be marked alone, and what the families of hues lose. */
export function OutOfGamut({ figures, look, onLook }: Props) {
  const turn = (way: (typeof WAYS)[number]) => {
    const rest = look.ways.includes(way)
      ? look.ways.filter((w) => w !== way)
      : WAYS.filter((w) => w === way || look.ways.includes(w));
    if (!look.veilOn) onLook({ ...look, veilOn: true, ways: [way] });
    else if (rest.length === 0) onLook({ ...look, veilOn: false, ways: [...WAYS] });
    else onLook({ ...look, ways: rest });
  };
  return (
    <Box
      component="section"
      aria-label="Out of gamut"
      sx={{ borderTop: 1, borderColor: "divider", mt: 1, pt: 1 }}
    >
      <Box
        role="group"
        aria-label="Ways of being out of gamut"
        sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)" }}
      >
        {WAYS.map((way) => {
          const shown = look.veilOn && look.ways.includes(way);
          const key = `too_${way}` as const;
          return (
            <ButtonBase
              key={way}
              aria-pressed={shown}
              onClick={() => turn(way)}
              sx={{
                display: "block",
                textAlign: "left",
                border: 1,
                borderColor: "text.secondary",
                ml: "-1px",
                px: 0.75,
                py: 0.4,
                ...(shown && {
                  boxShadow: (t) => `inset 0 3px 0 ${t.palette.text.primary}`,
                  bgcolor: "background.paper",
                }),
              }}
            >
              <Typography component="span" variant="body2" sx={{ display: "block" }}>
                <Explained of={key} focus={false}>
                  {WAY_NAMES[way]}
                </Explained>
              </Typography>
              <Typography
                component="span"
                data-explained={key}
                data-testid={key}
                sx={{ fontWeight: 700 }}
              >
                {figures ? `${figures[key].toFixed(1)} %` : "…"}
              </Typography>
            </ButtonBase>
          );
        })}
      </Box>
      {look.veilOn && (
        <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 0.5 }}>
          <Typography sx={{ flex: 1 }}>Marked by</Typography>
          <Pick
            label="How the veil marks"
            width={104}
            value={look.veil === "hatch" ? "hatch" : "colour"}
            options={{ hatch: "hatching", colour: "a colour" }}
            onChange={(how) => onLook({ ...look, veil: how === "hatch" ? "hatch" : "#b8b8b8" })}
          />
          {look.veil !== "hatch" && (
            <ColourInput
              label="Colour of the veil"
              value={look.veil}
              onChange={(veil) => onLook({ ...look, veil })}
            />
          )}
        </Box>
      )}
      {figures && noNearPrint(figures.families) && (
        <Typography sx={{ mt: 0.75, fontWeight: 650 }} data-explained="de00_mean">
          {noNearPrint(figures.families)}
        </Typography>
      )}
      {figures && (
        <Box component="details" sx={{ mt: 0.75, "& summary": { cursor: "pointer" } }}>
          <summary>What the families of hues lose</summary>
          <Box
            component="table"
            aria-label="Families of hues"
            sx={{
              width: "100%",
              borderCollapse: "collapse",
              fontSize: 11.5,
              lineHeight: "17px",
              mt: 0.5,
              "& td, & th": {
                p: 0,
                whiteSpace: "nowrap",
                pl: 0.75,
                textAlign: "right",
                fontWeight: 400,
              },
              "& tr > :first-of-type": { textAlign: "left", pl: 0 },
              "& tbody tr": { borderTop: 1, borderColor: "divider" },
            }}
          >
            <thead>
              <tr>
                <th>Family</th>
                <th>
                  <Explained of="family_share">share</Explained>
                </th>
                <th>
                  <Explained of="family_out">out</Explained>
                </th>
                <th>
                  <Explained of="chroma_kept">kept</Explained>
                </th>
                <th>
                  <Explained of="de00_mean">ΔE</Explained>
                </th>
              </tr>
            </thead>
            <tbody>
              {figures.families.map((f) => (
                <tr key={f.family}>
                  <td data-explained="family_chroma">
                    {f.family}
                    <Box component="span" sx={{ display: "block", color: "text.secondary" }}>
                      C* {chromas(f)}
                    </Box>
                  </td>
                  <td data-explained="family_share">{f.share.toFixed(1)}</td>
                  <td data-explained="family_out">{f.out.toFixed(0)}</td>
                  <td data-explained="chroma_kept">
                    {f.family === "greys" ? "–" : f.chroma_kept.toFixed(0)}
                  </td>
                  <td data-explained="de00_mean">{f.de00_mean.toFixed(1)}</td>
                </tr>
              ))}
            </tbody>
          </Box>
        </Box>
      )}
    </Box>
  );
}
