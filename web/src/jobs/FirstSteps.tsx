import { Box, Button, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";

import { NewConditionDialog } from "../conditions";
import { conditionsQuery } from "../queries/conditions";

function Step({
  number,
  done,
  title,
  children,
}: {
  number: number;
  done: boolean;
  title: string;
  children: ReactNode;
}) {
  return (
    <Box
      component="li"
      sx={{ display: "flex", gap: 2, py: 2, borderTop: 1, borderColor: "divider" }}
    >
      <Box
        aria-hidden
        sx={{
          width: 26,
          height: 26,
          flex: "none",
          border: 2,
          borderColor: "text.primary",
          display: "grid",
          placeItems: "center",
          fontWeight: 700,
          ...(done && { bgcolor: "text.primary", color: "background.paper" }),
        }}
      >
        {number}
      </Box>
      <Box sx={{ flex: 1 }}>
        <Typography sx={{ fontWeight: 700 }}>{title}</Typography>
        {children}
      </Box>
    </Box>
  );
}

/** What to do where there is no job yet: a condition to print for, then artwork. */
export function FirstSteps({ onArtwork }: { onArtwork: () => void }) {
  const conditions = useQuery(conditionsQuery);
  const [making, setMaking] = useState(false);
  const count = conditions.data?.length ?? 0;
  return (
    <Box sx={{ maxWidth: 560, mx: "auto", p: 5 }}>
      <Typography variant="h1" component="h2" sx={{ mb: 1 }}>
        No jobs yet
      </Typography>
      <Box component="ol" aria-label="First steps" sx={{ listStyle: "none", m: 0, p: 0 }}>
        <Step number={1} done={count > 0} title="What do you print for?">
          <Typography sx={{ mb: 1 }}>
            {count > 0
              ? `${count === 1 ? conditions.data?.[0]?.name : `${count} printing conditions`} can be printed for. More are made of the profiles of your presses.`
              : "A printing condition is made of the profile of your press: what it reaches is read from its own tables."}
          </Typography>
          <Button variant={count > 0 ? "outlined" : "contained"} onClick={() => setMaking(true)}>
            New condition…
          </Button>
        </Step>
        <Step number={2} done={false} title="What do you print?">
          <Typography sx={{ mb: 1 }}>
            Drop TIFF, PNG, JPEG or PSD files here. They are kept as they are; everything else is a
            recipe.
          </Typography>
          <Button variant={count > 0 ? "contained" : "outlined"} onClick={onArtwork}>
            Choose files…
          </Button>
        </Step>
      </Box>
      <NewConditionDialog
        open={making}
        onClose={() => setMaking(false)}
        onMade={() => setMaking(false)}
      />
    </Box>
  );
}
