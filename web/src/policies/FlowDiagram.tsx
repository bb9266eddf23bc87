import { Box, Typography } from "@mui/material";

import type { OutputPolicy, PolicyReport } from "../api";
import { Explained } from "../ui";
import { ACTIONS, flowDetail, flowKey, foundName, outcomeName } from "./words";

interface Props {
  report: PolicyReport;
  policy: OutputPolicy;
  chosen: string | null;
  onChoose: (row: string | null) => void;
}

const ROW = 34;
const GAP = 10;
const LEFT = 210;
const RIGHT = 190;

/** From what was found, through the rule that fits, to where it comes out; counted lines. */
export function FlowDiagram({ report, policy, chosen, onChoose }: Props) {
  const found = report.flow.map((f) => ({
    ...f,
    plain: foundName(f),
    to: outcomeName(f.outcome, report.destination),
    key: flowKey(foundName(f), f.rule, f.outcome),
  }));
  // Rows of one name say what sets them apart.
  const rows = found.map((r) => ({
    ...r,
    name:
      found.filter((o) => o.plain === r.plain).length > 1
        ? `${r.plain}: ${r.to.toLowerCase()}`
        : r.plain,
  }));
  const ends = [...new Set(rows.map((r) => r.to))].map((name) => ({
    name,
    count: rows.filter((r) => r.to === name).reduce((a, r) => a + r.count, 0),
  }));
  const most = Math.max(1, ...rows.map((r) => r.count));
  const thick = (count: number) => 2 + 18 * Math.sqrt(count / most);
  const height = Math.max(rows.length, ends.length) * ROW;
  const endY = (name: string) =>
    ((ends.findIndex((e) => e.name === name) + 0.5) * height) / ends.length;
  const width = 250;
  return (
    <Box
      role="group"
      aria-label="Flow"
      sx={{
        display: "grid",
        gridTemplateColumns: `${LEFT}px 270px minmax(60px, 1fr) ${RIGHT}px`,
        bgcolor: "background.paper",
        border: 1,
        borderColor: "divider",
        px: 2,
        py: 1,
        columnGap: `${GAP}px`,
      }}
    >
      {["Found in the document", "Rule", "", "Comes out as"].map((t, i) => (
        <Typography
          key={i}
          variant="body2"
          color="text.secondary"
          sx={{ fontWeight: 600, pb: 0.5 }}
        >
          {t}
        </Typography>
      ))}
      <Box>
        {rows.map((r) => (
          <Box
            key={r.key}
            component="button"
            aria-pressed={chosen === r.key}
            onClick={() => onChoose(chosen === r.key ? null : r.key)}
            sx={{
              all: "unset",
              cursor: "pointer",
              display: "flex",
              width: LEFT,
              height: ROW,
              alignItems: "center",
              borderTop: 1,
              borderColor: "divider",
              fontWeight: 650,
              boxSizing: "border-box",
              ...(chosen === r.key && {
                bgcolor: "text.primary",
                color: "background.paper",
                px: 0.75,
              }),
              "&:focus-visible": { outline: "2px solid", outlineOffset: "-2px" },
            }}
          >
            <Typography noWrap title={r.name} sx={{ flex: 1, fontSize: 12.5, fontWeight: 650 }}>
              {r.name}
            </Typography>
            <Typography sx={{ fontSize: 12.5, pl: 1 }}>
              <Explained of="objects" focus={false}>
                {r.count}
              </Explained>
            </Typography>
          </Box>
        ))}
      </Box>
      <Box>
        {rows.map((r) => (
          <Box
            key={r.key}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 1,
              height: ROW,
              borderTop: 1,
              borderColor: "divider",
              boxSizing: "border-box",
            }}
          >
            <Box
              sx={{
                border: 1,
                borderColor: r.action === "leave" ? "text.secondary" : "text.primary",
                px: 0.75,
                fontSize: 12,
                fontWeight: 650,
                lineHeight: "20px",
                whiteSpace: "nowrap",
                ...(r.action === "stop" && { bgcolor: "text.primary", color: "background.paper" }),
              }}
            >
              {ACTIONS[r.action as keyof typeof ACTIONS]}
            </Box>
            <Typography variant="body2" noWrap data-explained="rule_number" sx={{ flex: 1 }}>
              {flowDetail(r, policy)}
            </Typography>
          </Box>
        ))}
      </Box>
      <svg
        aria-hidden
        viewBox={`0 0 ${width} ${height}`}
        preserveAspectRatio="none"
        width="100%"
        height={height}
      >
        {rows.map((r, i) => {
          const y0 = (i + 0.5) * ROW;
          const y1 = endY(r.to);
          const stopped = r.action === "stop";
          return (
            <path
              key={i}
              d={
                stopped
                  ? `M0 ${y0}H${width * 0.55}`
                  : `M0 ${y0}C${width * 0.5} ${y0} ${width * 0.5} ${y1} ${width} ${y1}`
              }
              fill="none"
              stroke="currentColor"
              opacity={r.action === "leave" ? 0.35 : 0.75}
              strokeWidth={stopped ? 3 : thick(r.count)}
              strokeDasharray={stopped ? "7 6" : undefined}
              vectorEffect="non-scaling-stroke"
            />
          );
        })}
      </svg>
      <Box sx={{ position: "relative", height }}>
        {ends.map((e) => (
          <Box
            key={e.name}
            sx={{
              position: "absolute",
              left: 0,
              right: 0,
              top: endY(e.name) - 14,
              display: "flex",
              alignItems: "center",
              height: 28,
              gap: 1,
            }}
          >
            <Typography sx={{ flex: 1, fontSize: 12.5, fontWeight: 700, lineHeight: "14px" }}>
              {e.name}
            </Typography>
            <Typography sx={{ fontSize: 12.5 }}>
              <Explained of="objects" focus={false}>
                {e.count}
              </Explained>
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
