import { Box, ButtonBase, Typography } from "@mui/material";

import type { CheckFinding, Spot } from "../api";
import { pagesText, SEVERITIES, sorted } from "./severity";

interface Props {
  findings: CheckFinding[];
  /** Shows where on a page something was found. */
  onShow: (spot: Spot) => void;
}

/** What the policy's checks found, the gravest first, with the way to each place. */
export function Findings({ findings, onShow }: Props) {
  if (findings.length === 0) return null;
  return (
    <Box
      component="ul"
      aria-label="Findings of the checks"
      sx={{ m: 0, mb: 1.5, p: 0, listStyle: "none", border: 1, borderColor: "divider" }}
    >
      {sorted(findings).map((f) => {
        const grave = f.severity === "stop" || f.severity === "warn";
        return (
          <Box
            component="li"
            key={f.check}
            data-severity={f.severity}
            sx={{
              display: "grid",
              gridTemplateColumns: "92px 190px 1fr auto",
              alignItems: "baseline",
              gap: 1,
              px: 1.25,
              py: 0.5,
              borderTop: 1,
              borderColor: "divider",
              "&:first-of-type": { borderTop: 0 },
              borderLeft: 4,
              borderLeftColor: grave ? "text.primary" : "transparent",
            }}
          >
            <Typography sx={{ fontWeight: grave ? 700 : 400 }}>{SEVERITIES[f.severity]}</Typography>
            <Typography sx={{ fontWeight: 650 }}>{f.title}</Typography>
            <Typography>
              {f.text.text} <span>{pagesText(f.pages)}</span>
            </Typography>
            {f.places.length > 0 ? (
              <ButtonBase
                sx={{ textDecoration: "underline", fontSize: 12.5 }}
                aria-label={`Show ${f.title.toLowerCase()} on the page`}
                onClick={() => f.places[0] && onShow(f.places[0])}
              >
                Show the first
              </ButtonBase>
            ) : (
              <span />
            )}
          </Box>
        );
      })}
    </Box>
  );
}
