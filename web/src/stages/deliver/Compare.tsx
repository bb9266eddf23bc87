import { Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, ask } from "../../api";
import { keys } from "../../queries/keys";
import { Choice, FactList, Section } from "../../ui/controls";
import type { StageProps } from "../StageRail";

/** How far this print differs from the job's print for another condition. */
export function Compare({ job, destination }: StageProps) {
  const others = job.destinations.filter((d) => d.id !== destination.id);
  const [chosen, setChosen] = useState("");
  const other = others.find((d) => String(d.id) === chosen) ?? others[0];
  const found = useQuery({
    queryKey: [
      ...keys.against,
      destination.id,
      other?.id,
      JSON.stringify(destination.recipe),
      JSON.stringify(other?.recipe),
    ],
    queryFn: () =>
      ask(
        api.GET("/api/destinations/{id}/against", {
          params: { path: { id: destination.id }, query: { other: other?.id ?? 0 } },
        }),
      ),
    enabled: other !== undefined,
  });
  if (!other) return null;
  const signed = (v: number) => `${v > 0 ? "+" : ""}${v.toFixed(1).replace("-", "−")}`;
  return (
    <Section
      title="Compared with"
      fact={found.data ? `ΔE00 ${found.data.de00_mean.toFixed(1)}` : other.condition.name}
      of="de00_mean"
    >
      <Choice
        label="Condition"
        value={String(other.id)}
        options={Object.fromEntries(others.map((d) => [String(d.id), d.condition.name]))}
        onChange={setChosen}
      />
      {found.data && (
        <FactList
          facts={[
            ["Mean difference", `${found.data.de00_mean.toFixed(1)} ΔE00`, "de00_mean"],
            ["95 % below", found.data.de00_p95.toFixed(1), "de00_p95"],
            ["Worst", found.data.de00_max.toFixed(1), "de00_max"],
            ["Lighter there by", `${signed(found.data.lightness)} L*`, "lightness_shift"],
            ["More chroma there by", `${signed(found.data.chroma)} C*`, "chroma_shift"],
          ]}
        />
      )}
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        Both prints relative to their own medium. See them side by side with View, Conditions of
        this job.
      </Typography>
    </Section>
  );
}
