import { Box, ButtonBase, InputBase, Slider, Switch, Typography } from "@mui/material";
import { type ReactNode, useId, useState } from "react";

import { Explained, type Figure, type Named, Pick } from ".";

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
    <Box
      sx={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        justifyContent: "flex-end",
        minHeight: 28,
        gap: 1,
        opacity: disabled ? 0.55 : 1,
      }}
    >
      <Typography component="label" htmlFor={id} sx={{ flex: "1 0 118px" }}>
        <Explained text={help}>{label}</Explained>
      </Typography>
      {children}
      <Switch
        checked={checked}
        disabled={disabled}
        onChange={(e) => onChange(e.target.checked)}
        slotProps={{ input: { id } }}
      />
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
  step?: number;
  onLive: (value: number) => void;
  onRest: (value: number) => void;
}

/** A slider whose effect shows while it moves and is saved when it rests. */
export function Dial({ label, help, value, min, max, unit, step = 1, onLive, onRest }: DialProps) {
  const id = useId();
  const digits = step < 1 ? 1 : 0;
  return (
    <Box sx={{ mt: 0.5 }}>
      <Box sx={{ display: "flex" }}>
        <Typography id={id} sx={{ flex: 1 }}>
          <Explained text={help}>{label}</Explained>
        </Typography>
        <Typography data-explained="" sx={{ fontWeight: 650 }}>
          {value.toFixed(digits).replace("-", "−")}
          {unit}
        </Typography>
      </Box>
      <Slider
        size="small"
        aria-labelledby={id}
        value={value}
        min={min}
        max={max}
        step={step}
        getAriaValueText={(v) => `${v}${unit}`}
        onChange={(_, v) => onLive(v as number)}
        onChangeCommitted={(_, v) => onRest(v as number)}
      />
    </Box>
  );
}

interface SectionProps {
  title: string;
  /** What the part says while it is closed. */
  fact?: ReactNode;
  /** What that fact means, where it is a figure. */
  of?: Figure | undefined;
  open?: boolean;
  children: ReactNode;
}

/** A part of a stage that opens on wish, with its deciding fact beside its name. */
export function Section({ title, fact, of, open = false, children }: SectionProps) {
  const [shown, setShown] = useState(open);
  const id = useId();
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{ borderTop: 1, borderColor: "divider", mt: 1 }}
    >
      <ButtonBase
        aria-expanded={shown}
        aria-controls={id}
        onClick={() => setShown(!shown)}
        sx={{
          width: "100%",
          display: "flex",
          alignItems: "baseline",
          gap: 1,
          textAlign: "left",
          minHeight: 30,
          py: 0.5,
        }}
      >
        <Box
          aria-hidden
          component="span"
          sx={{ fontSize: 10, width: 9, flex: "none", transform: shown ? "rotate(90deg)" : "none" }}
        >
          ▶
        </Box>
        <Typography component="span" sx={{ fontWeight: 650 }}>
          {title}
        </Typography>
        <Typography
          component="span"
          variant="body2"
          color="text.secondary"
          noWrap
          {...(of && { "data-explained": of })}
          sx={{ flex: 1, textAlign: "right" }}
        >
          {fact}
        </Typography>
      </ButtonBase>
      {shown && (
        <Box id={id} sx={{ pb: 0.75 }}>
          {children}
        </Box>
      )}
    </Box>
  );
}

interface NumberFieldProps {
  label: string;
  help: string;
  value: number | null;
  unit: string;
  min: number;
  max: number;
  step?: number;
  /** What stands in the empty field, where it may be empty. */
  empty?: string;
  onRest: (value: number | null) => void;
}

interface LimitFieldProps {
  label: string;
  value: number | null;
  unit: string;
  min: number;
  max: number;
  step?: number;
  empty?: string | undefined;
  width?: number;
  id?: string | undefined;
  onRest: (value: number | null) => void;
}

/** A number in a row, without a label to be seen; kept when one leaves it or presses Enter, and held
 * within its limits. */
export function LimitField({
  label,
  value,
  unit,
  min,
  max,
  step = 1,
  empty,
  width = 62,
  id,
  onRest,
}: LimitFieldProps) {
  const [text, setText] = useState<string | null>(null);
  const rest = () => {
    if (text === null) return;
    const number = Number(text.replace(",", "."));
    if (text.trim() === "" && empty !== undefined) onRest(null);
    else if (text.trim() !== "" && Number.isFinite(number))
      onRest(Math.min(max, Math.max(min, number)));
    setText(null);
  };
  return (
    <>
      <InputBase
        id={id}
        value={text ?? (value === null ? "" : String(value))}
        placeholder={empty}
        inputMode="decimal"
        inputProps={{ step, ...(id === undefined && { "aria-label": label }) }}
        onChange={(e) => setText(e.target.value)}
        onBlur={rest}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          // The number is kept, and not yet the form it may stand in.
          e.preventDefault();
          rest();
        }}
        sx={{
          width,
          fontSize: 13,
          border: 1,
          borderColor: "text.secondary",
          bgcolor: "background.paper",
          "& input": { px: 0.75, py: 0.25, textAlign: "right" },
        }}
      />
      <Typography variant="body2" sx={{ width: 30 }}>
        {unit}
      </Typography>
    </>
  );
}

/** A number typed in, with its label. */
export function NumberField({ label, help, ...field }: NumberFieldProps) {
  const id = useId();
  return (
    <Box sx={{ display: "flex", alignItems: "center", minHeight: 32, gap: 1 }}>
      <Typography component="label" htmlFor={id} sx={{ flex: 1 }}>
        <Explained text={help}>{label}</Explained>
      </Typography>
      <LimitField label={label} id={id} width={84} {...field} />
    </Box>
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: Readonly<Record<T, string>> | Named<T>;
  groups?: readonly (readonly [heading: string, options: Named])[];
  help?: string;
  onChange: (value: T) => void;
}

/** A list to choose from with its label above. */
export function Choice<T extends string>({ label, help, ...pick }: ChoiceProps<T>) {
  const id = useId();
  return (
    <Box sx={{ mt: 0.75 }}>
      <Typography component="label" htmlFor={id} sx={{ display: "block", mb: 0.25 }}>
        {help ? <Explained text={help}>{label}</Explained> : label}
      </Typography>
      <Pick field id={id} label={label} {...pick} />
    </Box>
  );
}

interface ChoiceRowProps<T extends string> extends ChoiceProps<T> {
  width?: number;
}

/** A list to choose from with its label before it, on one line. */
export function ChoiceRow<T extends string>({ label, help, ...pick }: ChoiceRowProps<T>) {
  return (
    <Box sx={{ display: "flex", alignItems: "center", minHeight: 30 }}>
      <Typography sx={{ flex: 1 }}>
        {help ? <Explained text={help}>{label}</Explained> : label}
      </Typography>
      <Pick label={label} {...pick} />
    </Box>
  );
}

/** A name with its value, and what the value means where it is a figure. */
export type Fact = [name: string, value: ReactNode, of?: Figure];

/** Name and value pairs, values to the right. */
export function FactList({ facts }: { facts: Fact[] }) {
  return (
    <Box
      component="dl"
      sx={{ m: 0, display: "grid", gridTemplateColumns: "auto 1fr", columnGap: 1.5, rowGap: 0.4 }}
    >
      {facts.map(([name, value, of]) => (
        <Box key={name} sx={{ display: "contents" }}>
          <Box component="dt" sx={{ color: "text.secondary" }}>
            {of ? <Explained of={of}>{name}</Explained> : name}
          </Box>
          <Box
            component="dd"
            data-explained={of}
            sx={{ m: 0, textAlign: "right", overflowWrap: "anywhere" }}
          >
            {value}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
