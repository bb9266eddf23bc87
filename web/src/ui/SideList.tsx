import { Box, ButtonBase, Typography } from "@mui/material";
import type { ReactNode } from "react";

interface Props {
  label: string;
  rows: { id: number; name: string; fact: ReactNode }[];
  shown: number | undefined;
  empty: string;
  onOpen: (id: number) => void;
}

/** The list at the left of a page: what there is, the open one marked. */
export function SideList({ label, rows, shown, empty, onOpen }: Props) {
  return (
    <>
      <Box component="ul" aria-label={label} sx={{ listStyle: "none", m: 0, p: 0 }}>
        {rows.map((r) => (
          <Box component="li" key={r.id} sx={{ borderBottom: 1, borderColor: "divider" }}>
            <ButtonBase
              aria-current={r.id === shown ? "true" : undefined}
              onClick={() => onOpen(r.id)}
              sx={{
                width: "100%",
                display: "block",
                textAlign: "left",
                px: 2,
                py: 1,
                ...(r.id === shown && {
                  bgcolor: "background.paper",
                  boxShadow: (t) => `inset 4px 0 0 ${t.palette.text.primary}`,
                }),
              }}
            >
              <Typography sx={{ fontWeight: 700 }}>{r.name}</Typography>
              <Typography variant="body2" color="text.secondary">
                {r.fact}
              </Typography>
            </ButtonBase>
          </Box>
        ))}
      </Box>
      {rows.length === 0 && (
        <Typography sx={{ p: 2 }} color="text.secondary">
          {empty}
        </Typography>
      )}
    </>
  );
}
