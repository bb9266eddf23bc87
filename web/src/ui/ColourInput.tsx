import { Box } from "@mui/material";

interface Props {
  label: string;
  /** #rrggbb, as the browser's own picker takes it. */
  value: string;
  onChange: (value: string) => void;
}

/** A swatch that opens the browser's picker of colours. */
export function ColourInput({ label, value, onChange }: Props) {
  return (
    <Box
      component="input"
      type="color"
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      sx={{
        width: 22,
        height: 18,
        p: 0,
        border: 1,
        borderColor: "text.secondary",
        bgcolor: "transparent",
      }}
    />
  );
}
