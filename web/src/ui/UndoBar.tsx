import { Box, Button, Typography } from "@mui/material";
import { useState } from "react";

import { offerUndo, useLastRemoval } from "./removals";

/** The last removal with the way back, at the foot of every page. */
export function UndoBar() {
  const removal = useLastRemoval();
  const [problem, setProblem] = useState<string | null>(null);
  if (!removal) return null;
  const undo = async () => {
    try {
      await removal.undo();
      setProblem(null);
      offerUndo(null);
    } catch (caught) {
      setProblem(caught instanceof Error ? caught.message : String(caught));
    }
  };
  return (
    <Box
      role="status"
      aria-label="Removed"
      sx={{
        flex: "none",
        display: "flex",
        alignItems: "center",
        gap: 1.5,
        px: 2,
        minHeight: 42,
        bgcolor: "text.primary",
        color: "background.paper",
      }}
    >
      <Typography sx={{ flex: 1 }}>
        <b>{removal.name}</b> was removed.{problem ? ` ${problem}` : ""}
      </Typography>
      <Button onClick={() => void undo()} sx={{ color: "inherit", borderColor: "currentColor" }}>
        Undo
      </Button>
      <Button
        aria-label="Close the offer to undo"
        onClick={() => {
          setProblem(null);
          offerUndo(null);
        }}
        sx={{ color: "inherit", borderColor: "transparent" }}
      >
        ×
      </Button>
    </Box>
  );
}
