import { NativeSelect, OutlinedInput } from "@mui/material";
import type { SxProps } from "@mui/system";

/** What may be chosen with its name, in order; the first part is what `onChange` gets. */
export type Named<T extends string = string> = readonly (readonly [value: T, name: string])[];

interface Props<T extends string> {
  label: string;
  value: T;
  options: Readonly<Record<T, string>> | Named<T>;
  /** Further choices under headings, after the others; a heading without any is left out. */
  groups?: readonly (readonly [heading: string, options: Named])[];
  /** Stands there while nothing is chosen, and cannot be chosen itself. */
  prompt?: string;
  width?: number | string;
  /** Fills its place and is framed, as a field of a form. */
  field?: boolean;
  id?: string;
  disabled?: boolean;
  onChange: (value: T) => void;
  onClick?: (event: React.MouseEvent) => void;
  sx?: SxProps;
}

/** A list to choose from: the one kind there is, in a row or as a field of a form. */
export function Pick<T extends string>({
  label,
  value,
  options,
  groups = [],
  prompt,
  width,
  field = false,
  id,
  disabled,
  onChange,
  onClick,
  sx,
}: Props<T>) {
  const named = (Array.isArray(options) ? options : Object.entries(options)) as Named<T>;
  const choice = ([key, name]: readonly [string, string]) => (
    <option key={key} value={key}>
      {name}
    </option>
  );
  return (
    <NativeSelect
      value={value}
      disabled={disabled}
      fullWidth={field}
      {...(field && { input: <OutlinedInput size="small" /> })}
      inputProps={{ "aria-label": label, id }}
      onChange={(e) => onChange(e.target.value as T)}
      onClick={onClick}
      sx={{ fontSize: field ? 13 : 12.5, width, ...(sx as object) }}
    >
      {prompt !== undefined && (
        <option value="" disabled>
          {prompt}
        </option>
      )}
      {named.map(choice)}
      {groups.map(
        ([heading, more]) =>
          more.length > 0 && (
            <optgroup key={heading} label={heading}>
              {more.map(choice)}
            </optgroup>
          ),
      )}
    </NativeSelect>
  );
}
