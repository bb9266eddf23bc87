import { Box } from "@mui/material";

import type { ProofPatch, ProofReadingJudged } from "../api";
import { labColour } from "../plots/labColour";
import { Explained, labText, number } from "../ui";
import { visuallyHidden } from "../ui/hidden";

const SIDE = 44;

interface Props {
  patches: readonly ProofPatch[];
  judged: ProofReadingJudged["judgement"] | null;
  chosen: string | null;
  onChoose: (name: string | null) => void;
}

/** The strip as it lies on the sheet: what the press prints above, what was read below. */
export function Strip({ patches, judged, chosen, onChoose }: Props) {
  const read = new Map((judged?.patches ?? []).map((p) => [p.name, p]));
  return (
    <Box
      role="listbox"
      aria-label="Strip"
      sx={{ display: "flex", flexWrap: "wrap", gap: "10px 4px" }}
    >
      {patches.map((p) => {
        const found = read.get(p.name);
        const missed = found?.within === false;
        return (
          <Box
            key={p.name}
            role="option"
            aria-selected={chosen === p.name}
            tabIndex={0}
            onClick={() => onChoose(chosen === p.name ? null : p.name)}
            onKeyDown={(e) => {
              if (e.key === "Enter" || e.key === " ") {
                e.preventDefault();
                onChoose(chosen === p.name ? null : p.name);
              }
            }}
            sx={{
              width: SIDE,
              cursor: "pointer",
              outlineOffset: 2,
              ...(chosen === p.name && { outline: "2px solid" }),
              fontSize: 10.5,
              lineHeight: "13px",
            }}
          >
            <Box
              sx={{
                height: found ? 22 : SIDE,
                bgcolor: labColour(p.aim),
                // Paper is seen against the page.
                ...(p.kind === "paper" && { border: 1, borderBottom: 0, borderColor: "divider" }),
              }}
            />
            {found && <Box sx={{ height: 22, bgcolor: labColour(found.read) }} />}
            <Box sx={{ whiteSpace: "nowrap", overflow: "hidden" }}>{p.name}</Box>
            {found && (
              <Box sx={{ fontWeight: missed ? 800 : 400 }}>
                <span style={visuallyHidden}> ΔE00 </span>
                {number(found.de00)}
                {missed && (
                  <>
                    <span aria-hidden> ×</span>
                    <span style={visuallyHidden}> missed</span>
                  </>
                )}
              </Box>
            )}
          </Box>
        );
      })}
    </Box>
  );
}

/** One patch in numbers. */
export function OnePatch({
  patch,
  judged,
}: {
  patch: ProofPatch;
  judged: ProofReadingJudged["judgement"] | null;
}) {
  const found = judged?.patches.find((p) => p.name === patch.name);
  const values = (v: Record<string, number>) =>
    Object.entries(v)
      .map(([n, x]) => `${n} ${number(x, 0)}`)
      .join("  ");
  return (
    <Box
      role="group"
      aria-label={`Patch ${patch.name}`}
      sx={{
        display: "grid",
        gridTemplateColumns: "max-content 1fr",
        columnGap: 2,
        fontSize: 12.5,
        fontVariantNumeric: "tabular-nums",
      }}
    >
      <b>{patch.name}</b>
      <span>
        {values(patch.inks)} of the press; {values(patch.device)} of the proofer
      </span>
      <span>the press prints</span>
      <span>{labText(patch.aim)}</span>
      <Explained text="What the proofer's profile says it will print of these numbers.">
        expected
      </Explained>
      <span>
        {labText(patch.expected)}
        {patch.missed ? ", out of the proofer's reach" : ""}
      </span>
      {found && (
        <>
          <span>read</span>
          <span>
            {labText(found.read)}; ΔE00 <b>{number(found.de00)}</b>, ΔH* {number(found.dh)}, ΔCh{" "}
            {number(found.dc)}
          </span>
        </>
      )}
    </Box>
  );
}
