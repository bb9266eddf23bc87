import { Box, Dialog, DialogContent, DialogTitle } from "@mui/material";

import type { Condition, Profile } from "../api";
import { NewCondition } from "./NewCondition";

interface Props {
  open: boolean;
  /** A profile of the library that was chosen already. */
  from?: Profile | undefined;
  onMade: (made: Condition) => void;
  onClose: () => void;
}

/** A new condition without leaving the place where one is chosen. */
export function NewConditionDialog({ open, from, onMade, onClose }: Props) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" fullWidth aria-labelledby="new-condition">
      <DialogTitle id="new-condition" sx={{ fontSize: 15, fontWeight: 700 }}>
        New condition
      </DialogTitle>
      <DialogContent>
        {/* Room for the label of the first field, which stands above its frame. */}
        <Box sx={{ pt: 1 }}>
          <NewCondition from={from} onMade={onMade} onClose={onClose} />
        </Box>
      </DialogContent>
    </Dialog>
  );
}
