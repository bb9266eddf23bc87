import { Box, ButtonBase } from "@mui/material";
import type { ReactNode } from "react";

import { rove } from "./rove";

interface Props<T extends string> {
  /** What is chosen among, and the beginning of the parts' ids. */
  label: string;
  id: string;
  value: T;
  options: Record<T, string>;
  onChange: (value: T) => void;
  /** The view takes the height that is left. */
  fill?: boolean;
  children: ReactNode;
}

/** Several views of the same, one of them shown below their names. */
export function Tabs<T extends string>({
  label,
  id,
  value,
  options,
  onChange,
  fill = false,
  children,
}: Props<T>) {
  return (
    <>
      <Box
        role="tablist"
        onKeyDown={rove}
        aria-label={label}
        sx={{ display: "flex", gap: 0.5, mb: 1.5, borderBottom: 1, borderColor: "text.primary" }}
      >
        {(Object.entries(options) as [T, string][]).map(([v, name]) => (
          <ButtonBase
            key={v}
            role="tab"
            id={`${id}-${v}`}
            aria-selected={value === v}
            aria-controls={`${id}-shown`}
            tabIndex={value === v ? 0 : -1}
            onClick={() => onChange(v)}
            sx={{
              px: 1.5,
              height: 30,
              fontWeight: 650,
              ...(value === v && { bgcolor: "text.primary", color: "background.paper" }),
            }}
          >
            {name}
          </ButtonBase>
        ))}
      </Box>
      <Box
        role="tabpanel"
        id={`${id}-shown`}
        aria-labelledby={`${id}-${value}`}
        sx={fill ? { flex: 1, minHeight: 0, display: "flex", flexDirection: "column" } : {}}
      >
        {children}
      </Box>
    </>
  );
}
