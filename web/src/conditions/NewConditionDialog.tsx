import { Dialog, DialogContent, DialogTitle } from "@mui/material";

import type { Condition } from "../api";
import { NewCondition } from "./NewCondition";

interface Props {
  open: boolean;
  onMade: (made: Condition) => void;
  onClose: () => void;
}

/** A new condition without leaving the place where one is chosen. */
export function NewConditionDialog({ open, onMade, onClose }: Props) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" fullWidth aria-labelledby="new-condition">
      <DialogTitle id="new-condition" sx={{ fontSize: 15, fontWeight: 700 }}>
        New condition
      </DialogTitle>
      <DialogContent>
        <NewCondition onMade={onMade} onClose={onClose} />
      </DialogContent>
    </Dialog>
  );
}
