import { Box, Button, TextField, type TextFieldProps, Typography } from "@mui/material";
import type { SxProps } from "@mui/system";
import { createContext, type ReactNode, useContext, useId } from "react";
import type { FieldValues } from "react-hook-form";

import { ProblemError } from "../api";
import { ClashNotice } from "./ClashNotice";
import { Notice } from "./Notice";
import type { Draft } from "./useDraft";
import type { Leaving } from "./useUnkept";

const Shown = createContext<Draft<FieldValues> | null>(null);

/** What whoever edits a thing that others may change is given. */
export interface EditorProps<T> {
  start: T;
  error: Error | null;
  onKeep: (draft: T) => unknown;
  /** Keeps it over what somebody else changed meanwhile. */
  onAnyway: (draft: T) => void;
  onClose: () => void;
  leaving?: Leaving;
}

interface FormProps<T extends FieldValues> {
  of: Draft<T>;
  label: string;
  /** What the server had against the last keeping. */
  problem?: Error | null;
  /** Where somebody else changed the same: leaves it to them. */
  onTheirs?: () => void;
  /** Keeps it over what somebody else changed. */
  onMine?: (draft: T) => void;
  /** Fields beside each other in one row. */
  row?: boolean;
  onEscape?: () => void;
  children: ReactNode;
  sx?: SxProps;
}

/** The one kind of form: Enter keeps it, what is wrong stands beside its field, a clash asks whose it is. */
export function Form<T extends FieldValues>({
  of,
  label,
  problem = null,
  onTheirs,
  onMine,
  row = false,
  onEscape,
  children,
  sx,
}: FormProps<T>) {
  const clash = problem instanceof ProblemError && problem.problem.fields.length > 0;
  const said = Object.keys(of.problems).length > 0 && problem instanceof ProblemError && !clash;
  return (
    <Shown.Provider value={of as unknown as Draft<FieldValues>}>
      <Box
        component="form"
        noValidate
        aria-label={label}
        onSubmit={(event) => {
          event.stopPropagation();
          void of.keep(event);
        }}
        onKeyDown={(event) => {
          if (event.key === "Escape" && onEscape) {
            event.stopPropagation();
            onEscape();
          }
        }}
        sx={{
          minWidth: 0,
          ...(row && { display: "flex", gap: 0.75, alignItems: "center" }),
          ...(sx as object),
        }}
      >
        {problem && clash && onTheirs && onMine ? (
          <ClashNotice problem={problem} onTheirs={onTheirs} onMine={() => onMine(of.draft)} />
        ) : (
          problem && !said && <Notice problem={problem} />
        )}
        {children}
      </Box>
    </Shown.Provider>
  );
}

type LineProps<T extends FieldValues> = Omit<
  TextFieldProps,
  "name" | "value" | "onChange" | "onBlur" | "error" | "label"
> & {
  of: Draft<T>;
  name: keyof T & string;
  label: string;
  /** The label is for screen readers; what the field is for stands around it. */
  unlabelled?: boolean;
  most?: number;
};

/** A text of a form, with what is wrong with it beneath. */
export function FormLine<T extends FieldValues>({
  of,
  name,
  label,
  unlabelled = false,
  most,
  helperText,
  ...field
}: LineProps<T>) {
  const wrong = of.problems[name];
  const value = of.draft[name] as unknown;
  return (
    <TextField
      {...field}
      {...(!unlabelled && { label })}
      name={name}
      value={value ?? ""}
      error={wrong !== undefined}
      helperText={wrong ?? helperText}
      onChange={(event) => of.put({ [name]: event.target.value } as Partial<T>)}
      onBlur={() => of.leave(name)}
      slotProps={{
        htmlInput: {
          ...(most !== undefined && { maxLength: most }),
          ...(unlabelled && { "aria-label": label }),
        },
        formHelperText: {
          role: wrong === undefined ? undefined : "alert",
          sx: { mx: 0, fontWeight: wrong === undefined ? 450 : 650 },
        },
      }}
    />
  );
}

interface EndProps {
  keep: string;
  /** Keeping waits for more than the fields, such as that something was changed. */
  disabled?: boolean;
  onClose?: (() => void) | undefined;
  closeLabel?: string;
  children?: ReactNode;
}

/** The buttons at a form's end: what keeps it first, then what leaves it. It can be pressed while
 * something is missing, and then says what. */
export function FormEnd({ keep, disabled, onClose, closeLabel = "Close", children }: EndProps) {
  const of = useContext(Shown);
  return (
    <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
      <Button type="submit" variant="contained" disabled={disabled || of?.busy}>
        {keep}
      </Button>
      {children}
      {onClose && <Button onClick={onClose}>{closeLabel}</Button>}
    </Box>
  );
}

/** A control of a form with its label before it in a row. */
export function FormRow({
  label,
  width,
  children,
}: {
  label: ReactNode;
  width?: number;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <Box
      role="group"
      aria-labelledby={id}
      sx={{ display: "flex", alignItems: "center", minHeight: 34, gap: 1 }}
    >
      <Typography id={id} component="span" sx={width ? { width } : { flex: 1 }}>
        {label}
      </Typography>
      {children}
    </Box>
  );
}
