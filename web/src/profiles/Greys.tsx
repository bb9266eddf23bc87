import { Box, Slider, Typography } from "@mui/material";
import { useQueries } from "@tanstack/react-query";
import { useState } from "react";

import type { Profile } from "../api";
import { type Asked, neutralsQuery } from "../queries/profiles";
import { Explained, Notice, Pick } from "../ui";
import { Toggle } from "../ui/controls";
import { number } from "../ui/numbers";
import { INTENT_NAMES } from "../ui/wording";
import { GreysInSpace } from "./GreysInSpace";
import { NeutralsPlot } from "./NeutralsPlot";

/** How one to four profiles make greys: one intent, one BPC and one hairline for all. */
export function Greys({ profiles }: { profiles: Profile[] }) {
  const [asked, setAsked] = useState<Asked>({ intent: "relative", bpc: true });
  const [at, setAt] = useState(50);
  const [space, setSpace] = useState(false);
  const found = useQueries({ queries: profiles.map((p) => neutralsQuery(p.id, asked)) });
  return (
    <Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", columnGap: 3, mb: 1 }}>
        <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
          <Typography>Intent</Typography>
          <Pick
            label="Intent of the greys"
            width={170}
            value={asked.intent}
            options={INTENT_NAMES}
            onChange={(intent) => setAsked({ ...asked, intent })}
          />
        </Box>
        <Box sx={{ width: 240 }}>
          <Toggle
            label="Black point compensation"
            help="The black that is asked for is laid on the darkest print; without it L* 0 is asked for as it is."
            checked={asked.bpc && asked.intent !== "absolute"}
            disabled={asked.intent === "absolute"}
            onChange={(bpc) => setAsked({ ...asked, bpc })}
          />
        </Box>
        <Box
          sx={{ display: "flex", alignItems: "center", gap: 1.5, flex: "1 1 220px", maxWidth: 420 }}
        >
          <Typography id="greys-hairline" sx={{ whiteSpace: "nowrap" }}>
            Hairline at L*
          </Typography>
          <Slider
            size="small"
            aria-labelledby="greys-hairline"
            value={at}
            min={0}
            max={100}
            step={0.5}
            onChange={(_, v) => setAt(v)}
          />
        </Box>
      </Box>
      <Box sx={{ width: 240, mb: 1 }}>
        <Toggle
          label="In space too"
          help="The path in L*a*b*, to be turned: a hook at the dark end or a winding path shows at once."
          checked={space}
          onChange={setSpace}
        />
      </Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns:
            profiles.length > 1 ? "repeat(auto-fit, minmax(440px, 1fr))" : "minmax(0, 900px)",
          gap: 3,
        }}
      >
        {profiles.map((p, i) => {
          const { data, error, isPending } = found[i] ?? {};
          return (
            <Box key={p.id} sx={{ minWidth: 0 }}>
              {profiles.length > 1 && (
                <Typography variant="h2" noWrap>
                  {p.description}
                </Typography>
              )}
              {isPending && <Typography color="text.secondary">Following the greys…</Typography>}
              {error && <Notice problem={error} />}
              {data && (
                <>
                  <NeutralsPlot
                    name={p.description}
                    data={data}
                    at={at}
                    onAt={setAt}
                    small={profiles.length > 1}
                  />
                  {space && <GreysInSpace name={p.description} data={data} />}
                  <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
                    <Explained of="grey_cast">Chroma</Explained>{" "}
                    {number(data.figures.chroma_mean, 2)} in the mean,{" "}
                    {number(data.figures.chroma_max, 2)} at L* {number(data.figures.worst, 0)}; the
                    hue turns back {data.figures.turns}{" "}
                    {data.figures.turns === 1 ? "time" : "times"}
                    {data.figures.lightness_back > 0.05
                      ? `; it gets lighter again by L* ${number(data.figures.lightness_back, 2)}`
                      : ""}
                    . The fine dotted line is the total, its 100 % stand for 400.
                  </Typography>
                </>
              )}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
