import { Sentence } from "../shell";
import { FactList } from "./controls";
import type { StageProps } from "./StageRail";

/** What came in. */
export function ArtworkStage({ job }: StageProps) {
  const { facts, file_name, size } = job.artwork;
  const ppi = facts.resolution?.[0];
  return (
    <>
      <FactList
        facts={[
          ["File", file_name],
          ["Size", `${(size / 1e6).toFixed(1)} MB`],
          ["Format", facts.format],
          ["Space", `${facts.space}, ${facts.bits} bit`],
          ["Pixels", `${facts.width} × ${facts.height}`],
          ["Resolution", ppi ? `${ppi.toFixed(0)} ppi` : "not stated"],
          ["Print size", facts.print_size_mm ? `${facts.print_size_mm.map((v) => v.toFixed(1)).join(" × ")} mm` : "unknown"],
          ["Profile", facts.profile ?? "none embedded"],
          ["Transparency", facts.transparency ? "flattened" : "none"],
          ...(facts.pages > 1 ? ([["Pages", `first of ${facts.pages}`]] as [string, string][]) : []),
        ]}
      />
      <Sentence>
        The file is kept as it came; everything from here on is a recipe.
        {facts.transparency && " Its transparency is laid on the medium's white."}
        {ppi !== undefined && ppi < 120 && ` At ${ppi.toFixed(0)} ppi single pixels may show in print.`}
      </Sentence>
      {facts.profile_problem && <Sentence><b>{facts.profile_problem}</b></Sentence>}
    </>
  );
}
