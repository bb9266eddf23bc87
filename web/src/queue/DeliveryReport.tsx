import { Box } from "@mui/material";

import type { ConversionReport } from "../api";
import { Evenness } from "../ui";
import { type Fact, FactList } from "../ui/controls";
import { INTENT_NAMES } from "../ui/wording";

const de = ({ mean, p95, max }: { mean: number; p95: number; max: number }) =>
  `${mean.toFixed(2)} mean, ${p95.toFixed(2)} at 95 %, ${max.toFixed(1)} at most`;

/** What a delivery's report says of ink and colour. */
export function DeliveryReport({ report }: { report: ConversionReport }) {
  const { tac, de00, link_error, out_of_gamut: out } = report;
  const facts: Fact[] = [
    ["To", report.destination.profile],
    ["Intent", `${INTENT_NAMES[report.intent]}${report.bpc ? ", BPC" : ""}`],
    [
      "Most ink",
      `${tac.max.toFixed(1)} %${tac.rule ? ` of ${tac.rule.toFixed(0)} %` : ""}`,
      "tac_max",
    ],
    ["Print against artwork", `ΔE00 ${de(de00)}`, "de00_mean"],
    ["Out of gamut", `${(100 * out.share).toFixed(1)} %`, "out_of_gamut"],
    ["Depth", `${report.bits} bit${report.dithered ? ", dithered" : ""}`],
    ["Error of the grid", `ΔE00 ${link_error.mean.toFixed(2)} mean`, "link_error"],
  ];
  return (
    <Box role="region" aria-label="Delivery report">
      <FactList facts={facts} />
      {report.greys && <Evenness greys={report.greys} />}
    </Box>
  );
}
