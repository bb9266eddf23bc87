import { Box, ButtonBase, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";

import type { Followed, FollowedRow, PathStep } from "../api";
import { Swatch } from "../plots/Swatch";
import { conditionsQuery, profilesQuery } from "../queries/conditions";
import { inkRulesQuery, jobsQuery, tablesQuery } from "../queries/jobs";
import { conditionGroups, INTENT_NAMES, type Named, Pick, profileGroups } from "../ui";
import { number } from "../ui/numbers";
import { afterRemoval, moved, newStep } from "./steps";

interface Props {
  steps: PathStep[];
  first: number;
  second: number;
  /** What the server made of the steps, while it stands for them. */
  walked: Followed["steps"];
  /** The chosen colour, shown as it stands after every step. */
  row: FollowedRow | null;
  /** The picture as it stands after a step, where there is one. */
  picture: ((step: number) => string) | null;
  onChange: (change: { steps?: PathStep[]; first?: number; second?: number }) => void;
}

type Choices = (readonly [kind: string, options: Named])[];

/** Shelves of one kind: what is one's own, and what is not. */
const named = (kind: string, groups: Choices): Choices =>
  groups.map(([shelf, options]) => [`${kind}, ${shelf.toLowerCase()}`, options]);

/** What can be a step, by kind: what it is called and the reference it goes by. */
function useStepChoices(): Choices {
  const conditions = useQuery(conditionsQuery);
  const profiles = useQuery(profilesQuery);
  const tables = useQuery(tablesQuery);
  const jobs = useQuery(jobsQuery);
  const rules = useQuery(inkRulesQuery);
  return [
    [
      "Numbers",
      [
        ["lab:", "Lab"],
        ["reversal:rgb", "Reversed RGB"],
        ["reversal:cmyk", "Reversed CMYK"],
        ["reversal:grey", "Reversed grey"],
      ],
    ],
    ...named(
      "Conditions",
      conditionGroups(conditions.data, (c) => `condition:${c.id}`),
    ),
    ...named(
      "Profiles and links",
      profileGroups(
        profiles.data?.filter((p) => p.device_class !== "named colour"),
        (p) => `profile:${p.sha256}`,
      ),
    ),
    ["Colour tables", (tables.data ?? []).map((t) => [`table:${t.sha256}`, t.name])],
    [
      "Separated anew by ink rules",
      (conditions.data ?? [])
        .filter((c) => c.profile.colour_space === "CMYK")
        .flatMap((c) =>
          (rules.data ?? []).map((r): [string, string] => [
            `inks:${c.id}/${r.id}`,
            `${c.name} by ${r.name}`,
          ]),
        ),
    ],
    [
      "Recipes of jobs",
      (jobs.data ?? []).flatMap((j) =>
        j.destinations.map((d): [string, string] => [
          `job:${d.id}`,
          `${j.name}, ${d.condition.name}`,
        ]),
      ),
    ],
  ];
}

/** Chooses what a step is, among all there is. */
function StepPick({
  label,
  value,
  prompt,
  called,
  choices,
  onChange,
}: {
  label: string;
  value: string;
  prompt?: string;
  /** Its name where it is none of the choices, such as a retired condition. */
  called?: string | undefined;
  choices: Choices;
  onChange: (kind: string, ref: string) => void;
}) {
  const known = choices.some(([, options]) => options.some(([code]) => code === value));
  return (
    <Pick
      field
      label={label}
      value={value}
      {...(prompt && { prompt })}
      options={!known && value ? [[value, called ?? "no longer there"]] : []}
      groups={choices}
      onChange={(code) => {
        const at = code.indexOf(":");
        if (at > 0) onChange(code.slice(0, at), code.slice(at + 1));
      }}
      sx={{ fontWeight: prompt ? 450 : 650 }}
    />
  );
}

function Small({
  label,
  disabled,
  onClick,
  children,
}: {
  label: string;
  disabled?: boolean;
  onClick: () => void;
  children: string;
}) {
  return (
    <ButtonBase
      aria-label={label}
      disabled={disabled}
      onClick={onClick}
      sx={{
        width: 24,
        height: 24,
        flex: "none",
        border: 1,
        borderColor: "divider",
        fontSize: 12,
        "&.Mui-disabled": { opacity: 0.35 },
      }}
    >
      {children}
    </ButtonBase>
  );
}

/** The path, a row a step: what it is, how colours come into it, and which two are compared. */
export function Steps({ steps, first, second, walked, row, picture, onChange }: Props) {
  const choices = useStepChoices();
  const put = (at: number, change: Partial<PathStep>) =>
    onChange({ steps: steps.map((s, i) => (i === at ? ({ ...s, ...change } as PathStep) : s)) });
  return (
    <Box role="group" aria-label="Steps of the path">
      <Box sx={{ display: "grid", gridTemplateColumns: "28px 24px 1fr", fontSize: 11 }}>
        <span>from</span>
        <span>to</span>
      </Box>
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {steps.map((step, i) => {
          const known = walked[i];
          const values = row?.values[i];
          const lab = row?.lab[i];
          const name = known?.name ?? `step ${i + 1}`;
          const last = steps.length - 1;
          const standing = row && values && (
            <Typography
              variant="body2"
              sx={{ fontVariantNumeric: "tabular-nums", whiteSpace: "nowrap" }}
            >
              {lab && <Swatch lab={lab} size={18} />}
              {values.map((v) => number(v, 1)).join("\u2002")}
            </Typography>
          );
          return (
            <Box
              component="li"
              key={i}
              aria-label={`Step ${i + 1}`}
              sx={{
                display: "grid",
                gridTemplateColumns: "28px 24px minmax(0, 1fr)",
                py: 0.75,
                borderTop: 1,
                borderColor: "divider",
              }}
            >
              {(["first", "second"] as const).map((part) => (
                <Box key={part} sx={{ pt: 0.25 }}>
                  <input
                    type="radio"
                    name={`compared-${part}`}
                    aria-label={`${part === "first" ? "From" : "To"} step ${i + 1}, ${name}`}
                    checked={(part === "first" ? first : second) === i}
                    disabled={known ? !known.coloured : false}
                    onChange={() => onChange({ [part]: i })}
                    style={{ width: 15, height: 15, margin: 0, accentColor: "currentColor" }}
                  />
                </Box>
              ))}
              <Box sx={{ minWidth: 0 }}>
                <Box sx={{ display: "flex", gap: 0.5, alignItems: "center" }}>
                  <Typography component="span" sx={{ width: 14, fontWeight: 700 }}>
                    {i + 1}
                  </Typography>
                  <Box sx={{ flex: 1, minWidth: 0 }}>
                    <StepPick
                      label={`What step ${i + 1} is`}
                      value={`${step.kind}:${step.ref}`}
                      called={known?.name}
                      choices={choices}
                      onChange={(kind, ref) => put(i, { kind, ref } as Partial<PathStep>)}
                    />
                  </Box>
                  <Small
                    label={`Take step ${i + 1} out`}
                    disabled={steps.length === 1}
                    onClick={() =>
                      onChange({
                        steps: steps.filter((_, k) => k !== i),
                        first: afterRemoval(first, i, last),
                        second: afterRemoval(second, i, last),
                      })
                    }
                  >
                    ×
                  </Small>
                </Box>
                {i > 0 && step.kind !== "table" && step.kind !== "reversal" && (
                  <Box sx={{ display: "flex", gap: 1, alignItems: "center", pl: 2.25, mt: 0.25 }}>
                    <Pick
                      label={`Intent into step ${i + 1}`}
                      value={step.intent}
                      options={INTENT_NAMES}
                      onChange={(intent) => put(i, { intent })}
                    />
                    <Typography component="label" variant="body2" sx={{ whiteSpace: "nowrap" }}>
                      <input
                        type="checkbox"
                        aria-label={`BPC into step ${i + 1}`}
                        checked={step.bpc && step.intent !== "absolute"}
                        disabled={step.intent === "absolute"}
                        onChange={(e) => put(i, { bpc: e.target.checked })}
                        style={{ verticalAlign: "-2px", marginRight: 4 }}
                      />
                      BPC
                    </Typography>
                  </Box>
                )}
                <Box
                  sx={{
                    pl: 2.25,
                    mt: 0.5,
                    minHeight: 24,
                    display: "flex",
                    gap: 0.5,
                    alignItems: "center",
                  }}
                >
                  {picture && known?.coloured && (
                    <Box
                      component="img"
                      src={picture(i)}
                      alt={`The picture after step ${i + 1}`}
                      sx={{ maxWidth: 92, maxHeight: 60, display: "block" }}
                    />
                  )}
                  {!picture && standing}
                  <Box sx={{ flex: 1 }} />
                  <Small
                    label={`Move step ${i + 1} up`}
                    disabled={i === 0}
                    onClick={() => onChange({ steps: moved(steps, i, -1) })}
                  >
                    ↑
                  </Small>
                  <Small
                    label={`Move step ${i + 1} down`}
                    disabled={i === last}
                    onClick={() => onChange({ steps: moved(steps, i, 1) })}
                  >
                    ↓
                  </Small>
                </Box>
                {picture && standing && <Box sx={{ pl: 2.25, mt: 0.5 }}>{standing}</Box>}
              </Box>
            </Box>
          );
        })}
      </Box>
      <Box sx={{ borderTop: 1, borderColor: "divider", pt: 0.75, pl: "52px" }}>
        {steps.length < 12 ? (
          <StepPick
            label="Add a step"
            value=""
            prompt="Add a step…"
            choices={choices}
            onChange={(kind, ref) =>
              onChange({
                steps: [...steps, newStep(kind, ref)],
                ...(second === steps.length - 1 && { second: steps.length }),
              })
            }
          />
        ) : (
          <Typography variant="body2">Twelve steps are the most.</Typography>
        )}
      </Box>
    </Box>
  );
}
