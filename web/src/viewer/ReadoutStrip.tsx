import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";

import type { Destination, Readout } from "../api";
import { InkBars } from "../plots";
import { Explained } from "../ui";
import { hasInks, WAY_NAMES } from "../ui/wording";
import type { Pointer } from "./usePointer";

function Cell({
  title,
  children,
  width,
}: {
  title: string;
  children: ReactNode;
  width: string | number;
}) {
  return (
    <Box
      sx={{
        width,
        flex: width === 1 ? 1 : "none",
        px: 1.25,
        py: 0.25,
        borderLeft: 1,
        borderColor: "divider",
        "&:first-of-type": { borderLeft: 0 },
        minWidth: 0,
      }}
    >
      <Typography
        variant="caption"
        color="text.secondary"
        sx={{ fontWeight: 600, display: "block" }}
      >
        {title}
      </Typography>
      {children}
    </Box>
  );
}

const RESULTS = { inks: "Inks, %", exposure: "Exposure, %", screen: "RGB, %" };
const kindOf = ({ condition }: Destination) =>
  hasInks(condition) ? "inks" : condition.process === "display" ? "screen" : "exposure";

const three = (lab: number[]) => lab.map((v) => v.toFixed(1).replace("-", "−")).join("  ");
const chroma = ([, a = 0, b = 0]: number[]) => `C* ${Math.hypot(a, b).toFixed(0)}`;

function Numbers({ readout, kind }: { readout: Readout; kind: "inks" | "exposure" | "screen" }) {
  const inks = kind === "inks";
  const corrected = readout.aim_lab.join() !== readout.lab.join();
  return (
    <>
      <Cell title="Under the pointer" width={160}>
        <Typography noWrap>
          <Explained of="place">
            x {readout.x}, y {readout.y}
          </Explained>
        </Typography>
        <Explained
          of="source_values"
          text={`The artwork's own numbers, in ${readout.source_space}.`}
        >
          {Object.entries(readout.source)
            .map(([n, v]) => `${n} ${v.toFixed(0)}`)
            .join("  ")}
        </Explained>
      </Cell>
      <Cell title="Lab, D50, and chroma" width={252}>
        <Box
          data-explained="lab"
          sx={{
            display: "grid",
            gridTemplateColumns: "56px 1fr",
            "& > :nth-of-type(even)": { textAlign: "right", whiteSpace: "pre", fontWeight: 600 },
          }}
        >
          <span>original</span>
          <span>{`${three(readout.lab)}  ${chroma(readout.lab)}`}</span>
          {corrected && (
            <>
              <span>corrected</span>
              <span>{`${three(readout.aim_lab)}  ${chroma(readout.aim_lab)}`}</span>
            </>
          )}
          <span>in print</span>
          <span>
            <span data-testid="print-lab">{three(readout.print_lab)}</span>
            {`  ${chroma(readout.print_lab)}`}
          </span>
        </Box>
      </Cell>
      <Cell title={RESULTS[kind]} width={1}>
        <Explained of={kind === "screen" ? "screen_values" : kind}>
          <Box component="span" sx={{ display: "block" }}>
            <InkBars inks={readout.inks} columns={Object.keys(readout.inks).length > 4 ? 2 : 1} />
          </Box>
        </Explained>
      </Cell>
      <Cell title={inks ? "Difference and total ink" : "Difference"} width={206}>
        <Explained of="de00">
          <Box component="span" sx={{ fontSize: 16, fontWeight: 700 }}>
            {readout.de00.toFixed(1)}
          </Box>{" "}
          ΔE00
          {readout.out_way ? `, ${WAY_NAMES[readout.out_way]} by ${readout.miss.toFixed(1)}` : ""}
        </Explained>
        {inks && (
          <Box>
            <Explained of="tac">
              TAC <b data-testid="pointer-tac">{readout.tac.toFixed(0)}</b> of{" "}
              {readout.tac_rule.toFixed(0)} %
            </Explained>
          </Box>
        )}
      </Cell>
    </>
  );
}

/** The numbers of every pane at the pointer. */
export function ReadoutStrip({
  pointer,
  destination,
}: {
  pointer: Pointer;
  destination: Destination;
}) {
  return (
    <Box
      component="section"
      aria-label="Readout"
      sx={{
        flex: "none",
        height: 78,
        overflow: "hidden",
        display: "flex",
        borderTop: 1,
        borderColor: "divider",
        bgcolor: "background.paper",
      }}
    >
      {pointer.readout ? (
        <Numbers readout={pointer.readout} kind={kindOf(destination)} />
      ) : (
        <Typography sx={{ p: 1.25 }} color="text.secondary">
          Move the pointer over the picture to read the artwork's numbers, Lab, the inks on{" "}
          {destination.condition.name} and the difference.
        </Typography>
      )}
    </Box>
  );
}
