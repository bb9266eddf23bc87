import { Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";

import { api, ask } from "../api";
import { keys } from "../queries/keys";
import { Sentence } from "../ui";
import { Choice, type Fact, FactList } from "../ui/controls";
import { Findings } from "./Findings";
import { OtherPicture } from "./OtherPicture";
import type { StageProps } from "./StageRail";

/** What came in, and what was noticed about it. */
export function ArtworkStage({ job }: StageProps) {
  const { facts, file_name, size, page } = job.artwork;
  const navigate = useNavigate();
  const client = useQueryClient();
  const open = useMutation({
    mutationFn: async (wanted: number) => {
      const artwork = await ask(
        api.POST("/api/artwork/{id}/page", {
          params: { path: { id: job.artwork.id } },
          body: { page: wanted },
        }),
      );
      return ask(
        api.POST("/api/jobs", {
          body: {
            artwork: artwork.id,
            conditions: job.destinations.map((d) => d.condition.id),
            work: "",
            extra_channels: facts.extra_channels?.length ? "leave out" : "stop",
          },
        }),
      );
    },
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: keys.jobs });
      void navigate(`/jobs/${made.id}/${made.destinations[0]?.id}/artwork`);
    },
  });
  const ppi = facts.resolution?.[0];
  const share = facts.transparent_share ?? 0;
  const layers = facts.layers ?? [];
  const hidden = layers.filter((layer) => layer.hidden).length;
  const nameOf = (page: number) => {
    const layer = layers[page - 1];
    if (layers.length === 0) return `Page ${page + 1}`;
    return layer ? `${layer.name}${layer.hidden ? ", hidden" : ""}` : "As flattened";
  };
  const pages = Object.fromEntries(
    Array.from({ length: Math.min(facts.pages, 200) }, (_, i) => [String(i), nameOf(i)]),
  );
  return (
    <>
      <FactList
        facts={[
          ["File", file_name],
          ["Size", `${(size / 1e6).toFixed(1)} MB`, "file_size"],
          ["Format", facts.format],
          ["Space", `${facts.space}, ${facts.bits} bit`, "bits"],
          ...(facts.inks?.length ? [["Inks", facts.inks.join(", ")] as Fact] : []),
          ["Pixels", `${facts.width} × ${facts.height}`, "pixels"],
          ["Resolution", ppi ? `${ppi.toFixed(0)} ppi` : "not stated", "resolution"],
          [
            "Print size",
            facts.print_size_mm
              ? `${facts.print_size_mm.map((v) => v.toFixed(1)).join(" × ")} mm`
              : "unknown",
            "print_size",
          ],
          ["Profile", facts.profile ?? "none embedded"],
          [
            "Transparency",
            facts.transparency ? `${(share * 100).toFixed(1)} % of it, flattened` : "none",
            "transparency",
          ],
          ...(facts.extra_channels?.length
            ? ([["Left out", facts.extra_channels.join(", ")]] as Fact[])
            : []),
          ...(layers.length > 0
            ? ([
                ["Layers", `${layers.length}${hidden ? `, ${hidden} hidden` : ""}`],
                ["Shown", nameOf(page ?? 0)],
              ] as Fact[])
            : []),
          ...(facts.pages > 1 && layers.length === 0
            ? ([["Pages", `${(page ?? 0) + 1} of ${facts.pages}`, "pages"]] as Fact[])
            : []),
        ]}
      />
      <Findings findings={(facts.findings ?? []).filter((f) => f.code !== "extra-channels")} />
      {facts.pages > 1 && (
        <>
          <Choice
            label={`Start a job with another ${layers.length > 0 ? "layer" : "page"}`}
            value={String(page ?? 0)}
            options={pages}
            onChange={(p) => open.mutate(Number(p))}
          />
          {open.isPending && <Typography role="status">Taking it in…</Typography>}
          {open.error && (
            <Typography role="alert" sx={{ fontWeight: 650 }}>
              {open.error.message}
            </Typography>
          )}
        </>
      )}
      <OtherPicture job={job} />
      <Sentence>The file is kept as it came; everything from here on is a recipe.</Sentence>
      {facts.profile_problem && (
        <Sentence>
          <b>{facts.profile_problem}</b>
        </Sentence>
      )}
    </>
  );
}
