import { Box, Dialog, Typography } from "@mui/material";

import { combination, type Shortcut, SHORTCUTS } from "../ui/shortcuts";
import { useCommands } from "../ui/useCommands";

/** The list of keys, opened by "?" or from the menu. */
export function ShortcutSheet({
  open,
  onOpen,
}: {
  open: boolean;
  onOpen: (open: boolean) => void;
}) {
  useCommands({ help: () => onOpen(!open) });
  return (
    <Dialog open={open} onClose={() => onOpen(false)} aria-labelledby="shortcut-title">
      <Box sx={{ p: 3, minWidth: 460 }}>
        <Typography id="shortcut-title" variant="h1" sx={{ mb: 2 }}>
          Keys
        </Typography>
        <Box
          component="dl"
          sx={{ display: "grid", gridTemplateColumns: "150px 1fr", rowGap: 1, m: 0 }}
        >
          {(Object.values(SHORTCUTS) as Shortcut[]).map((s) => (
            <Box key={s.key} sx={{ display: "contents" }}>
              <Box component="dt" sx={{ fontWeight: 700 }}>
                {s.shown}
                {s.combined ? `, ${combination(s.combined.shown)}` : ""}
              </Box>
              <Box component="dd" sx={{ m: 0 }}>
                {s.label}
              </Box>
            </Box>
          ))}
        </Box>
        <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
          Arrow keys move the picture in focus, + and − change its size.
        </Typography>
      </Box>
    </Dialog>
  );
}
