import { Box, ButtonBase, LinearProgress, Typography } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";

import type { AskedPart, Condition, Profile } from "../api";
import { conditionsQuery, profilesQuery } from "../queries/conditions";
import { jobsQuery } from "../queries/jobs";
import { answerPages, answerQuery, questionsQuery } from "../queries/questions";
import { Shell } from "../shell";
import { Choice, INTENT_NAMES, Notice, NumberField } from "../ui";
import { useAddress } from "../ui/useAddress";
import { AnswerView } from "./AnswerView";

/** What can play a part: conditions by their names first, then all other examined profiles. */
export function profileChoices(
  conditions: readonly Condition[],
  profiles: readonly Profile[],
): Record<string, string> {
  const found = new Map<string, string>();
  for (const c of conditions) {
    const before = found.get(` ${c.profile.id}`);
    found.set(` ${c.profile.id}`, before === undefined ? c.name : `${before} / ${c.name}`);
  }
  for (const p of profiles)
    if (!found.has(` ${p.id}`) && p.facts?.examined) found.set(` ${p.id}`, p.description);
  // Keys that look like numbers would be sorted by their number, and not as they were put in.
  return Object.fromEntries(found);
}

/** What a part is where nobody has chosen yet: another profile for each, the proofer an inkjet. */
export function firstChoice(
  part: AskedPart,
  at: number,
  conditions: readonly Condition[],
  jobs: readonly { id: number }[],
): string {
  if (part.kind === "picture") return String(jobs[0]?.id ?? "");
  if (part.kind !== "profile") return part.start ?? "";
  // Several conditions may have one profile; a question of two is asked of two.
  const inked = conditions.filter(
    (c, i) =>
      c.profile.colour_space === "CMYK" &&
      conditions.findIndex((d) => d.profile.id === c.profile.id) === i,
  );
  if (part.key === "proofer") {
    const inkjet = inked.find((c) => c.process === "inkjet");
    if (inkjet) return String(inkjet.profile.id);
  }
  if (part.key === "source") return "";
  return String((inked[Math.min(at, inked.length - 1)] ?? conditions[0])?.profile.id ?? "");
}

/** Six questions, each answered on one page in figures, a picture and words. */
export function QuestionsPage() {
  const [params, write] = useAddress();
  const questions = useQuery(questionsQuery);
  const conditions = useQuery(conditionsQuery);
  const profiles = useQuery(profilesQuery);
  const jobs = useQuery(jobsQuery);
  const all = questions.data?.questions ?? [];
  const asked = all.find((q) => q.key === params.get("ask")) ?? all[0];
  const ready = conditions.data && profiles.data && jobs.data;
  const choices = profileChoices(conditions.data ?? [], profiles.data ?? []);
  const srgb = profiles.data?.find((p) => p.description === "sRGB")?.id;
  const parts: Record<string, string> = {};
  asked?.parts.forEach((part) => {
    const at = asked.parts.filter((p) => p.kind === "profile").indexOf(part);
    const first = firstChoice(part, at, conditions.data ?? [], jobs.data ?? []);
    parts[part.key] =
      params.get(part.key) ?? (first || (part.key === "source" ? String(srgb ?? "") : ""));
  });
  const complete = asked !== undefined && asked.parts.every((p) => parts[p.key]);
  const answer = useQuery({
    ...answerQuery(asked?.key ?? "", parts),
    enabled: Boolean(ready) && complete,
    placeholderData: keepPreviousData,
  });
  // Parts of other questions stay in the address, so that going to and fro loses nothing.
  const withAll = (change: Record<string, string>, now = params) =>
    new URLSearchParams({ ...Object.fromEntries(now), ...change });
  const put = (key: string, value: string) =>
    write((now) =>
      withAll({ ...parts, ...Object.fromEntries(now), ask: asked?.key ?? "", [key]: value }, now),
    );
  const known = {
    sha: Object.fromEntries((profiles.data ?? []).map((p) => [String(p.id), p.sha256])),
  };
  const fresh = answer.data?.question === asked?.key ? answer.data : undefined;
  return (
    <Shell detail="One page for each: the answer, its figure, what was done, where to look further.">
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "300px minmax(0, 1fr)",
          height: "100%",
          minHeight: 0,
        }}
      >
        <Box sx={{ borderRight: 1, borderColor: "divider", overflow: "auto" }}>
          <Box component="ul" aria-label="Questions" sx={{ listStyle: "none", p: 0, m: 0 }}>
            {all.map((q) => (
              <Box component="li" key={q.key} sx={{ borderBottom: 1, borderColor: "divider" }}>
                <ButtonBase
                  aria-current={q.key === asked?.key ? "true" : undefined}
                  onClick={() => write(() => withAll({ ...parts, ask: q.key }))}
                  sx={{
                    width: "100%",
                    textAlign: "left",
                    justifyContent: "flex-start",
                    px: 2,
                    py: 1.25,
                    fontWeight: 650,
                    ...(q.key === asked?.key && {
                      bgcolor: "background.paper",
                      boxShadow: (t) => `inset 4px 0 0 ${t.palette.text.primary}`,
                    }),
                  }}
                >
                  {q.asked}
                </ButtonBase>
              </Box>
            ))}
          </Box>
          {asked && (
            <Box sx={{ p: 2 }} role="group" aria-label="Asked with">
              <Typography color="text.secondary" sx={{ mb: 1 }}>
                {asked.help}
              </Typography>
              {asked.parts.map((part) => (
                <PartField
                  key={part.key}
                  part={part}
                  value={parts[part.key] ?? ""}
                  choices={choices}
                  jobs={Object.fromEntries((jobs.data ?? []).map((j) => [` ${j.id}`, j.name]))}
                  onChange={(v) => put(part.key, v)}
                />
              ))}
            </Box>
          )}
        </Box>
        <Box sx={{ overflow: "auto", p: 2.5, minWidth: 0 }}>
          {questions.error && (
            <Notice problem={questions.error} onRetry={() => void questions.refetch()} />
          )}
          {answer.error && <Notice problem={answer.error} onRetry={() => void answer.refetch()} />}
          {answer.isFetching && <LinearProgress aria-label="Answering" sx={{ mb: 1 }} />}
          {ready && !complete && asked && (
            <Typography sx={{ maxWidth: 560 }}>
              Choose what plays each part on the left. Profiles come from the library and from
              conditions, pictures from jobs.
            </Typography>
          )}
          {asked && fresh && !answer.error && (
            <AnswerView
              answer={fresh}
              parts={parts}
              known={known}
              pages={answerPages(asked.key, parts)}
            />
          )}
        </Box>
      </Box>
    </Shell>
  );
}

interface FieldProps {
  part: AskedPart;
  value: string;
  choices: Record<string, string>;
  jobs: Record<string, string>;
  onChange: (value: string) => void;
}

function PartField({ part, value, choices, jobs, onChange }: FieldProps) {
  const help = part.help ?? "";
  if (part.kind === "number")
    return (
      <NumberField
        label={part.name}
        help={help || part.name}
        value={Number(value)}
        unit={part.unit ?? ""}
        min={part.low ?? 0}
        max={part.high ?? 100}
        step={(part.high ?? 100) > 50 ? 1 : 0.1}
        onRest={(v) => v !== null && onChange(String(v))}
      />
    );
  const options =
    part.kind === "choice"
      ? Object.fromEntries(
          (part.choices ?? []).map((c) => [c, INTENT_NAMES[c as keyof typeof INTENT_NAMES] ?? c]),
        )
      : part.kind === "picture"
        ? jobs
        : choices;
  const spaced = part.kind === "choice" ? value : ` ${value}`;
  return (
    <Choice
      label={part.name}
      value={spaced in options ? spaced : ""}
      options={spaced in options ? options : { "": "Choose…", ...options }}
      {...(help && { help })}
      onChange={(v) => v && onChange(v.trim())}
    />
  );
}
