import { Box, Dialog, Typography } from "@mui/material";
import { useState } from "react";

import { Toggle } from "../ui";
import { combination, setSingleKeys, type Shortcut, SHORTCUTS, singleKeys } from "../ui/shortcuts";
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
  const [single, setSingle] = useState(singleKeys);
  const keep = (on: boolean) => {
    setSingleKeys(on);
    setSingle(on);
  };
  return (
    <Dialog open={open} onClose={() => onOpen(false)} aria-labelledby="shortcut-title">
      <Box sx={{ p: 3, minWidth: 460 }}>
        <Typography id="shortcut-title" variant="h1" component="h2" sx={{ mb: 2 }}>
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
        <Toggle
          label="Single keys are commands"
          checked={single}
          onChange={keep}
          help="Off: letters and digits do nothing of their own. Esc and what is pressed with Ctrl stay."
        />
      </Box>
    </Dialog>
  );
}
