import { Box, Dialog, Typography } from "@mui/material";
import { useState } from "react";

import { SHORTCUTS } from "./shortcuts";
import { useCommands } from "./useCommands";

/** The list of keys, opened by "?". */
export function ShortcutSheet() {
  const [open, setOpen] = useState(false);
  useCommands({ help: () => setOpen(!open) });
  return (
    <Dialog open={open} onClose={() => setOpen(false)} aria-labelledby="shortcut-title">
      <Box sx={{ p: 3, minWidth: 420 }}>
        <Typography id="shortcut-title" variant="h1" sx={{ mb: 2 }}>Keys</Typography>
        <Box component="dl" sx={{ display: "grid", gridTemplateColumns: "48px 1fr", rowGap: 1, m: 0 }}>
          {Object.values(SHORTCUTS).map((s) => (
            <Box key={s.key} sx={{ display: "contents" }}>
              <Box component="dt" sx={{ fontWeight: 700 }}>{s.shown}</Box>
              <Box component="dd" sx={{ m: 0 }}>{s.label}</Box>
            </Box>
          ))}
        </Box>
      </Box>
    </Dialog>
  );
}
