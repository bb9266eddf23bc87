import { Box, ButtonBase, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";

import { conditionsQuery, profilesQuery } from "../queries/conditions";
import { jobsQuery } from "../queries/jobs";
import { swatchListsQuery } from "../queries/paths";
import { conditionGroups, type Named, Pick, profileGroups } from "../ui";
import { LineKey } from "./GamutTables";

export const MOST = 4;
/** Pictures and lists are clouds of dots, and have no outline. */
const isCloud = (ref: string) => /^(picture|list):/.test(ref);

interface Props {
  of: string[];
  /** What is known of the names beside the lists. */
  called: Record<string, string>;
  onChange: (of: string[]) => void;
}

/** What is looked at, in order, and what can be added: conditions, profiles, recipes and pictures of jobs,
 * lists. */
export function Chooser({ of, called, onChange }: Props) {
  const conditions = useQuery(conditionsQuery);
  const profiles = useQuery(profilesQuery);
  const jobs = useQuery(jobsQuery);
  const lists = useQuery(swatchListsQuery);
  const offers: [kind: string, prompt: string, groups: readonly (readonly [string, Named])[]][] = [
    ["condition", "Add a condition…", conditionGroups(conditions.data, (c) => `condition:${c.id}`)],
    [
      "profile",
      "Add a profile…",
      profileGroups(
        profiles.data?.filter((p) => p.device_class !== "link" && p.device_class !== "abst"),
        (p) => `profile:${p.sha256}`,
      ),
    ],
    [
      "recipe",
      "Add a job’s recipe…",
      (jobs.data ?? []).map((j) => [
        j.name,
        j.destinations.map((d) => [`recipe:${d.id}`, `${j.name} for ${d.condition.name}`]),
      ]),
    ],
    [
      "picture",
      "Add a picture…",
      [["Jobs", (jobs.data ?? []).map((j) => [`picture:${j.id}`, j.name])]],
    ],
    [
      "list",
      "Add a list of colours…",
      [
        [
          "Lists",
          (lists.data ?? [])
            .filter((l) => l.space === "Lab")
            .map((l) => [`list:${l.id}`, `${l.name} (${l.count})`]),
        ],
      ],
    ],
  ];
  const known = offers.flatMap(([, , groups]) => groups.flatMap(([, options]) => options));
  const names: Record<string, string> = { ...called, ...Object.fromEntries(known) };
  const bodies = of.filter((ref) => !isCloud(ref));
  const full = of.length >= MOST;
  return (
    <Box role="group" aria-label="Looked at">
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Looked at
      </Typography>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: "none" }}>
        {of.map((ref) => (
          <Box
            component="li"
            key={ref}
            sx={{ display: "flex", alignItems: "center", gap: 0.75, minHeight: 30 }}
          >
            {isCloud(ref) ? (
              <Typography component="span" aria-hidden sx={{ width: 34, textAlign: "center" }}>
                ·:·
              </Typography>
            ) : (
              <LineKey index={bodies.indexOf(ref)} />
            )}
            <Typography sx={{ flex: 1, minWidth: 0, overflowWrap: "anywhere" }}>
              {names[ref] ?? ref}
            </Typography>
            <ButtonBase
              aria-label={`Take ${names[ref] ?? ref} out`}
              onClick={() => onChange(of.filter((other) => other !== ref))}
              sx={{ width: 24, height: 24, border: 1, borderColor: "divider", fontSize: 12 }}
            >
              ×
            </ButtonBase>
          </Box>
        ))}
      </Box>
      {offers.map(([kind, prompt, groups]) => (
        <Box key={kind} sx={{ mt: 0.5 }}>
          <Pick
            label={prompt.replace("…", "")}
            width="100%"
            value=""
            disabled={full}
            options={{ "": prompt }}
            groups={groups.map(([heading, options]) => [
              heading,
              options.filter(([ref]) => !of.includes(ref)),
            ])}
            onChange={(ref) => ref && onChange([...of, ref])}
          />
        </Box>
      ))}
      {full && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          Four at once; take one out to add another.
        </Typography>
      )}
    </Box>
  );
}
