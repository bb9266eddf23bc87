import {
  Box,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  InputBase,
  Typography,
} from "@mui/material";
import { type ReactNode, useId } from "react";

import { Form } from "./Form";
import type { Draft } from "./useDraft";

interface Props {
  title: string;
  /** Buttons at its foot, the deciding one last. */
  actions: ReactNode;
  onClose: () => void;
  /** What is filled in; a button of the kind “submit”, or Enter in a line, keeps it. */
  form?: Draft<any>; // eslint-disable-line @typescript-eslint/no-explicit-any -- of any fields
  children: ReactNode;
}

/** A short form laid over the page, under a title, with its buttons below. */
export function Sheet({ title, actions, onClose, form, children }: Props) {
  const id = useId();
  const content = (
    <>
      <DialogContent>{children}</DialogContent>
      <DialogActions>{actions}</DialogActions>
    </>
  );
  return (
    <Dialog open onClose={onClose} aria-labelledby={id} maxWidth="sm" fullWidth>
      <DialogTitle id={id} sx={{ fontSize: 15, fontWeight: 700 }}>
        {title}
      </DialogTitle>
      {form ? (
        <Form
          of={form}
          label={title}
          sx={{ display: "flex", flexDirection: "column", minHeight: 0 }}
        >
          {content}
        </Form>
      ) : (
        content
      )}
    </Dialog>
  );
}

interface TextLineProps {
  label: string;
  value: string;
  placeholder?: string;
  /** Lines that are shown at least; one where it is left out. */
  lines?: number;
  /** What is wrong with it. */
  wrong?: string | undefined;
  onChange: (value: string) => void;
}

/** A text with its label above; of several lines where it is asked for. */
export function TextLine({ label, value, placeholder, lines = 1, wrong, onChange }: TextLineProps) {
  const id = useId();
  return (
    <Box sx={{ mt: 1 }}>
      <Typography component="label" htmlFor={id} sx={{ display: "block" }}>
        {label}
      </Typography>
      <InputBase
        id={id}
        fullWidth
        multiline={lines > 1}
        {...(lines > 1 && { minRows: lines, maxRows: 14 })}
        value={value}
        {...(placeholder !== undefined && { placeholder })}
        error={wrong !== undefined}
        onChange={(event) => onChange(event.target.value)}
        sx={{
          border: 1,
          borderColor: "text.secondary",
          bgcolor: "background.paper",
          px: 1,
          py: lines > 1 ? 1 : 0,
          fontSize: 13,
          fontVariantNumeric: "tabular-nums",
        }}
      />
      {wrong && (
        <Typography role="alert" variant="body2" sx={{ fontWeight: 650 }}>
          {wrong}
        </Typography>
      )}
    </Box>
  );
}
