import { NativeSelect } from "@mui/material";

interface Props<T extends string> {
  label: string;
  value: T;
  options: Record<T, string>;
  width?: number | string;
  disabled?: boolean;
  onChange: (value: T) => void;
}

/** A short list to choose from, inside a row. */
export function Pick<T extends string>({
  label,
  value,
  options,
  width,
  disabled,
  onChange,
}: Props<T>) {
  return (
    <NativeSelect
      value={value}
      disabled={disabled}
      inputProps={{ "aria-label": label }}
      onChange={(e) => onChange(e.target.value as T)}
      sx={{ fontSize: 12.5, width }}
    >
      {(Object.entries(options) as [T, string][]).map(([k, name]) => (
        <option key={k} value={k}>
          {name}
        </option>
      ))}
    </NativeSelect>
  );
}
