import { Box, Button, ButtonBase, InputBase, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";

import type { OutputPolicy, PolicyRule } from "../api";
import { profilesQuery } from "../queries/conditions";
import { LimitField, Pick } from "../ui";
import { ChecksEditor } from "./ChecksEditor";
import { inserted, unreachable } from "./reach";
import { WholeDocument } from "./WholeDocument";
import {
  ACTIONS,
  FALLBACKS,
  INTENTS,
  NEW_RULE,
  OBJECTS,
  SIGNATURES,
  SPACES,
  STRETCHES,
  stretchOf,
  vividOf,
} from "./words";

/** Whether a rule for such objects may ask for their size. */
const bySize = (objects: PolicyRule["objects"]) => objects === "text" || objects === "vectors";

interface Props {
  policy: OutputPolicy;
  /** Names of the document's layers, which are offered. */
  layers?: readonly string[];
  onChange: (policy: OutputPolicy) => void;
}

interface BoundProps {
  label: string;
  value: string;
  empty: string;
  help: string;
  list?: string;
  onRest: (value: string) => void;
}

/** What bounds a rule, typed and taken when it is left or Enter is pressed. */
function Bound({ label, value, empty, help, list, onRest }: BoundProps) {
  return (
    <InputBase
      key={value}
      defaultValue={value}
      placeholder={empty}
      inputProps={{ "aria-label": label, title: help, maxLength: 200, list }}
      onBlur={(e) => e.target.value !== value && onRest(e.target.value)}
      onKeyDown={(e) => e.key === "Enter" && (e.target as HTMLInputElement).blur()}
      sx={{ fontSize: 12.5, width: 70, borderBottom: 1, borderColor: "text.secondary" }}
    />
  );
}

/** The rules in order, the first that fits decides; and what holds for all objects. */
export function RulesEditor({ policy, layers = [], onChange }: Props) {
  const set = (part: Partial<OutputPolicy>) => onChange({ ...policy, ...part });
  const put = (index: number, part: Partial<PolicyRule>) =>
    set({ rules: policy.rules.map((r, i) => (i === index ? { ...r, ...part } : r)) });
  const move = (index: number, by: number) => {
    const rules = [...policy.rules];
    const [rule] = rules.splice(index, 1);
    if (rule) rules.splice(index + by, 0, rule);
    set({ rules });
  };
  const dead = unreachable(policy.rules);
  const profiles = useQuery(profilesQuery);
  const to = profiles.data?.find((p) => p.sha256 === policy.destination)?.colour_space;
  /** Device links from a rule's space to the destination's; the chosen one in any case. */
  const linksFor = (rule: PolicyRule) =>
    (profiles.data ?? []).filter(
      (p) =>
        p.sha256 === rule.link ||
        (p.device_class === "device link" &&
          p.colour_space === SIGNATURES[rule.space] &&
          (!to || !p.facts?.gives || p.facts.gives === to)),
    );
  const small = {
    fontSize: 12,
    px: 0.75,
    minWidth: 24,
    height: 24,
    border: 1,
    borderColor: "divider",
    "&.Mui-disabled": { opacity: 0.35 },
  };
  return (
    <Box sx={{ border: 1, borderColor: "divider", bgcolor: "background.paper", p: 2 }}>
      <Box component="ol" aria-label="Rules" sx={{ m: 0, p: 0, listStyle: "none" }}>
        <Typography variant="h2" component="li" sx={{ mb: 0.5 }}>
          Rules; the first that fits decides
        </Typography>
        {policy.rules.map((rule, i) => (
          <Box
            component="li"
            key={i}
            aria-label={`Rule ${i + 1}`}
            sx={{
              display: "flex",
              alignItems: "center",
              flexWrap: "wrap",
              gap: 0.75,
              borderTop: 1,
              borderColor: "divider",
              py: 0.5,
            }}
          >
            <Typography sx={{ width: 16, fontWeight: 700 }}>{i + 1}</Typography>
            <Pick
              label="Objects"
              width={118}
              value={rule.objects}
              options={OBJECTS}
              onChange={(objects) => put(i, { objects, ...(!bySize(objects) && { below: null }) })}
            />
            {bySize(rule.objects) && (
              <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
                {rule.below !== null && <Typography variant="body2">below</Typography>}
                <LimitField
                  label="Smaller or thinner than"
                  value={rule.below ?? null}
                  unit={rule.below === null ? "" : "pt"}
                  width={rule.below === null ? 62 : 44}
                  min={0.01}
                  max={1000}
                  step={0.1}
                  empty="any size"
                  onRest={(below) => put(i, { below })}
                />
              </Box>
            )}
            <Pick
              label="Colour space"
              width={100}
              value={rule.space}
              options={SPACES}
              onChange={(space) => put(i, { space, spot: "", link: null })}
            />
            {rule.space === "spot" && (
              <InputBase
                value={rule.spot}
                placeholder="all spots"
                inputProps={{
                  "aria-label": "Name of the spot colour",
                  title: "A name; * stands for any letters. Empty: all spot colours.",
                }}
                onChange={(e) => put(i, { spot: e.target.value })}
                sx={{ fontSize: 12.5, width: 72, borderBottom: 1, borderColor: "text.secondary" }}
              />
            )}
            <Pick
              label="Action"
              width={88}
              value={rule.action}
              options={ACTIONS}
              onChange={(action) => put(i, { action, ...(action !== "convert" && { link: null }) })}
            />
            {rule.action === "convert" && linksFor(rule).length > 0 && (
              <Pick<string>
                label="By a device link"
                width={112}
                value={rule.link ?? ""}
                options={{
                  "": "by intent",
                  ...Object.fromEntries(
                    linksFor(rule).map((p) => [p.sha256, `link ${p.description}`]),
                  ),
                }}
                onChange={(link) => put(i, { link: link || null, ...(link && { vivid: null }) })}
              />
            )}
            {rule.action === "convert" && !rule.link && (
              <Pick
                label="Intent"
                width={132}
                value={rule.intent}
                options={INTENTS}
                onChange={(intent) => put(i, { intent })}
              />
            )}
            {rule.action === "convert" && !rule.link && (
              <ButtonBase
                sx={{
                  ...small,
                  fontWeight: 600,
                  ...(rule.bpc && { bgcolor: "text.primary", color: "background.paper" }),
                }}
                aria-pressed={rule.bpc}
                onClick={() => put(i, { bpc: !rule.bpc })}
              >
                BPC
              </ButtonBase>
            )}
            {rule.action === "convert" && !rule.link && rule.intent === "own" && (
              <Pick
                label="Where the object states none"
                width={132}
                value={rule.fallback}
                options={FALLBACKS}
                onChange={(fallback) => put(i, { fallback })}
              />
            )}
            {rule.action === "convert" &&
              !rule.link &&
              (rule.space === "RGB" || rule.space === "all") && (
                <Pick
                  label="Stretch of the source"
                  width={104}
                  value={stretchOf(rule)}
                  options={STRETCHES}
                  onChange={(stretch) => put(i, { vivid: vividOf(stretch) })}
                />
              )}
            <Box sx={{ ml: "auto", display: "flex", alignItems: "center", gap: 0.75 }}>
              <Bound
                label="Layer"
                value={rule.layer}
                empty="all layers"
                help="A name; * stands for any letters. Empty: on any layer and on none."
                list="layers-of-the-document"
                onRest={(layer) => put(i, { layer })}
              />
              <Bound
                label="Pages"
                value={rule.pages}
                empty="all pages"
                help="Such as 1-4, 7, 10- or odd or even. Empty: all pages."
                onRest={(pages) => put(i, { pages })}
              />
              <ButtonBase
                sx={small}
                aria-label={`Rule ${i + 1} earlier`}
                disabled={i === 0}
                onClick={() => move(i, -1)}
              >
                ↑
              </ButtonBase>
              <ButtonBase
                sx={small}
                aria-label={`Rule ${i + 1} later`}
                disabled={i === policy.rules.length - 1}
                onClick={() => move(i, 1)}
              >
                ↓
              </ButtonBase>
              <ButtonBase
                sx={small}
                aria-label={`Remove rule ${i + 1}`}
                onClick={() => set({ rules: policy.rules.filter((_, k) => k !== i) })}
              >
                ×
              </ButtonBase>
              {(dead[i]?.length ?? 0) > 0 && (
                <Typography
                  variant="body2"
                  role="note"
                  sx={{ width: "100%", pl: 2.5, fontWeight: 650 }}
                >
                  Never acts:{" "}
                  {dead[i]?.length === 1
                    ? `rule ${dead[i]?.[0]} takes`
                    : `rules ${dead[i]?.join(", ")} take`}{" "}
                  all its objects. Move it up.
                </Typography>
              )}
            </Box>
          </Box>
        ))}
        <Box component="li" sx={{ pt: 1, borderTop: 1, borderColor: "divider" }}>
          <Button onClick={() => set({ rules: inserted(policy.rules, NEW_RULE) })}>
            Add a rule
          </Button>
          <Typography variant="body2" sx={{ display: "inline", ml: 1.5 }}>
            What no rule fits is left as it is.
          </Typography>
        </Box>
      </Box>
      <datalist id="layers-of-the-document">
        {layers.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <WholeDocument policy={policy} onChange={onChange} />
      <ChecksEditor policy={policy} onChange={(checks) => set({ checks })} />
    </Box>
  );
}
