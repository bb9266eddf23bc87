import { Box, Link as MuiLink, TextField, Typography } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";

import { Shell } from "../shell";
import type { Meaning } from "../ui/meanings";
import { type Figure, MEANINGS } from "../ui/meanings";
import { WORDS } from "./words";

interface Entry {
  key: string;
  name: string;
  text: string;
  method?: string | undefined;
}

const ENTRIES: Entry[] = [
  ...Object.entries(WORDS).map(([name, text]) => ({ key: name, name, text })),
  ...(Object.entries(MEANINGS) as [Figure, Meaning][]).map(([key, m]) => ({
    key,
    name: `${m.label}${m.unit ? `, ${m.unit}` : ""}`,
    text: [m.text, m.why].filter(Boolean).join(" "),
    method: m.method,
  })),
].sort((a, b) => a.name.localeCompare(b.name));

/** Every word and every figure, with what it means and where its method is written down. */
export function WordsPage() {
  const [wanted, setWanted] = useState("");
  const found = ENTRIES.filter((e) =>
    `${e.name} ${e.text}`.toLowerCase().includes(wanted.trim().toLowerCase()),
  );
  return (
    <Shell title="Words and figures" detail={`${found.length} of ${ENTRIES.length}`}>
      <Box sx={{ height: "100%", overflow: "auto", p: 3 }}>
        <TextField
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
          placeholder="Find a word"
          slotProps={{ htmlInput: { "aria-label": "Find a word" } }}
          sx={{ width: 320, mb: 2 }}
        />
        <Box component="dl" sx={{ m: 0, columns: { md: 2 }, columnGap: 5, maxWidth: 1180 }}>
          {found.map((e) => (
            <Box key={e.key} id={e.key} sx={{ breakInside: "avoid", mb: 1.5 }}>
              <Box component="dt" sx={{ fontWeight: 700 }}>
                {e.name}
              </Box>
              <Box component="dd" sx={{ m: 0 }}>
                {e.text}
                {e.method && (
                  <>
                    {" "}
                    <MuiLink component={Link} to={`/methods/${e.method}`} color="inherit">
                      How it is computed
                    </MuiLink>
                  </>
                )}
              </Box>
            </Box>
          ))}
        </Box>
        {found.length === 0 && <Typography>No word like that. The methods may have it.</Typography>}
      </Box>
    </Shell>
  );
}
