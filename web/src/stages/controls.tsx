import { Box, Slider, Switch, Typography } from "@mui/material";
import { type ReactNode, useId } from "react";

import { Explained } from "../shell";

interface ToggleProps {
  label: string;
  help: string;
  checked: boolean;
  disabled?: boolean;
  onChange: (checked: boolean) => void;
  children?: ReactNode;
}

/** A labelled switch on one line. */
export function Toggle({ label, help, checked, disabled, onChange, children }: ToggleProps) {
  const id = useId();
  return (
    <Box sx={{ display: "flex", alignItems: "center", minHeight: 28, gap: 1, opacity: disabled ? 0.55 : 1 }}>
      <Typography component="label" htmlFor={id} sx={{ flex: 1 }}><Explained text={help}>{label}</Explained></Typography>
      {children}
      <Switch checked={checked} disabled={disabled} onChange={(e) => onChange(e.target.checked)} slotProps={{ input: { id } }} />
    </Box>
  );
}

interface DialProps {
  label: string;
  help: string;
  value: number;
  min: number;
  max: number;
  unit: string;
  onLive: (value: number) => void;
  onRest: (value: number) => void;
}

/** A slider whose effect shows while it moves and is saved when it rests. */
export function Dial({ label, help, value, min, max, unit, onLive, onRest }: DialProps) {
  const id = useId();
  return (
    <Box sx={{ mt: 0.5 }}>
      <Box sx={{ display: "flex" }}>
        <Typography id={id} sx={{ flex: 1 }}><Explained text={help}>{label}</Explained></Typography>
        <Typography sx={{ fontWeight: 650 }}>{value.toFixed(0)}{unit}</Typography>
      </Box>
      <Slider
        size="small" aria-labelledby={id} value={value} min={min} max={max} step={1} getAriaValueText={(v) => `${v}${unit}`}
        onChange={(_, v) => onLive(v as number)} onChangeCommitted={(_, v) => onRest(v as number)}
      />
    </Box>
  );
}

/** Name and value pairs, values to the right. */
export function FactList({ facts }: { facts: [string, ReactNode][] }) {
  return (
    <Box component="dl" sx={{ m: 0, display: "grid", gridTemplateColumns: "auto 1fr", columnGap: 1.5, rowGap: 0.4 }}>
      {facts.map(([name, value]) => (
        <Box key={name} sx={{ display: "contents" }}>
          <Box component="dt" sx={{ color: "text.secondary" }}>{name}</Box>
          <Box component="dd" sx={{ m: 0, textAlign: "right", overflowWrap: "anywhere" }}>{value}</Box>
        </Box>
      ))}
    </Box>
  );
}
