import { Box } from "@mui/material";

import { shortInk, useInks } from "./inks";

interface Props {
  inks: Record<string, number>;
  /** How many stand side by side. */
  columns?: number;
}

/** Each ink as a bar of its colour with its percentage. */
export function InkBars({ inks, columns = 1 }: Props) {
  const look = useInks();
  const names = Object.keys(inks);
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: `repeat(${columns}, ${names.some((n) => n.length > 1) ? 20 : 14}px 1fr 44px)`,
        alignItems: "center",
        columnGap: 1,
        fontSize: 12,
        lineHeight: "13.5px",
      }}
    >
      {Object.entries(inks).map(([name, value]) => (
        <Box key={name} sx={{ display: "contents" }}>
          <span title={name} aria-label={name}>
            {shortInk(name, names)}
          </span>
          <Box sx={{ height: 7, bgcolor: "action.disabledBackground", position: "relative" }}>
            <Box
              sx={{
                position: "absolute",
                inset: 0,
                width: `${value}%`,
                bgcolor: look.colour(name),
                ...(name === "K" && { outline: "1px solid", outlineColor: "divider" }),
              }}
            />
          </Box>
          <Box component="span" sx={{ textAlign: "right" }}>
            {value.toFixed(1)}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
