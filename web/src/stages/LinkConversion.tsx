import { Box } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { profilesQuery } from "../queries/conditions";
import { Sentence } from "../ui";
import { Choice, Section } from "../ui/controls";
import { profileSpace } from "../ui/wording";
import type { StageProps } from "./StageRail";

/** A device link that makes the inks, in place of intent, compensation and ink rules. */
export function LinkConversion({ job, destination, control }: StageProps) {
  const profiles = useQuery(profilesQuery);
  const chosen = control.recipe.link;
  const from = profileSpace(job.artwork);
  const to = destination.condition.profile.colour_space;
  const fitting = (profiles.data ?? []).filter(
    (p) =>
      p.device_class === "device link" &&
      p.colour_space === from &&
      (!p.facts?.gives || p.facts.gives === to),
  );
  const options: Record<string, string> = {
    "": "none: by intent and ink rules",
    ...(chosen && !fitting.some((p) => p.sha256 === chosen) ? { [chosen]: "a link" } : {}),
    ...Object.fromEntries(fitting.map((p) => [p.sha256, p.description])),
  };
  return (
    <Section
      title="By a device link"
      fact={chosen ? (options[chosen] ?? "a link") : "none"}
      open={chosen !== null}
    >
      <Choice
        label="Device link"
        help={`Leads straight from ${from} to ${to}. Intent, black point compensation and ink rules are in it already.`}
        value={chosen ?? ""}
        options={options}
        onChange={(link) => control.commit(link ? { link, ink_rules: null } : { link: null })}
      />
      {fitting.length === 0 && (
        <Sentence>
          No link from {from} to {to} is in the library. Save one of a{" "}
          <Box component={Link} to="/paths" sx={{ color: "inherit" }}>
            colour path
          </Box>
          , or add one among the profiles.
        </Sentence>
      )}
    </Section>
  );
}
