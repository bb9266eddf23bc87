import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";

import type { Destination, Readout } from "../api";
import { InkBars } from "../plots";
import { Explained } from "../shell";
import { hasInks } from "../stages/wording";
import type { Pointer } from "./usePointer";

function Cell({ title, children, width }: { title: string; children: ReactNode; width: string | number }) {
  return (
    <Box sx={{ width, flex: width === 1 ? 1 : "none", px: 1.75, py: 1, borderLeft: 1, borderColor: "divider", "&:first-of-type": { borderLeft: 0 }, minWidth: 0 }}>
      <Typography variant="caption" color="text.secondary" sx={{ fontWeight: 600, display: "block" }}>{title}</Typography>
      {children}
    </Box>
  );
}

const three = (lab: number[]) => lab.map((v) => v.toFixed(1).replace("-", "−")).join("  ");

function Numbers({ readout, inks }: { readout: Readout; inks: boolean }) {
  const corrected = readout.aim_lab.join() !== readout.lab.join();
  return (
    <>
      <Cell title="Under the pointer" width={178}>
        <Typography noWrap>x {readout.x}, y {readout.y}</Typography>
        <Explained text={`The artwork's own numbers, in ${readout.source_space}.`}>
          {Object.entries(readout.source).map(([n, v]) => `${n} ${v.toFixed(0)}`).join("  ")}
        </Explained>
      </Cell>
      <Cell title="Lab, D50" width={220}>
        <Box sx={{ display: "grid", gridTemplateColumns: "58px 1fr", "& > :nth-of-type(even)": { textAlign: "right", whiteSpace: "pre", fontWeight: 600 } }}>
          <span>original</span><span>{three(readout.lab)}</span>
          {corrected && <><span>corrected</span><span>{three(readout.aim_lab)}</span></>}
          <span>in print</span><span data-testid="print-lab">{three(readout.print_lab)}</span>
        </Box>
      </Cell>
      <Cell title={inks ? "Inks, %" : "Exposure, %"} width={1}><InkBars inks={readout.inks} /></Cell>
      <Cell title={inks ? "Difference and total ink" : "Difference"} width={190}>
        <Explained text="CIEDE2000 between the artwork's colour and its print, both relative to their own white unless the intent is absolute. About 1 is just visible side by side.">
          <Box component="span" sx={{ fontSize: 18, fontWeight: 700 }}>{readout.de00.toFixed(1)}</Box> ΔE00{readout.out_of_gamut ? ", out of gamut" : ""}
        </Explained>
        {inks && <Box>
          <Explained text="Total area coverage here against the rule of this recipe: more ink than the medium bears sets off, dries late and loses detail.">
            TAC <b data-testid="pointer-tac">{readout.tac.toFixed(0)}</b> of {readout.tac_rule.toFixed(0)} %
          </Explained>
        </Box>}
      </Cell>
    </>
  );
}

/** The numbers of every pane at the pointer. */
export function ReadoutStrip({ pointer, destination }: { pointer: Pointer; destination: Destination }) {
  return (
    <Box component="section" aria-label="Readout" sx={{ flex: "none", minHeight: 82, display: "flex", borderTop: 1, borderColor: "divider", bgcolor: "background.paper" }}>
      {pointer.readout ? (
        <Numbers readout={pointer.readout} inks={hasInks(destination.condition)} />
      ) : (
        <Typography sx={{ p: 1.75 }} color="text.secondary">
          Move the pointer over either picture to read the artwork's numbers, Lab, the inks on {destination.condition.name} and the difference.
        </Typography>
      )}
    </Box>
  );
}
