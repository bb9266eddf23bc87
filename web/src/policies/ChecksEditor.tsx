import { Box, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";

import type { CheckKind, OutputPolicy, PolicyCheck } from "../api";
import { checksQuery } from "../queries/policies";
import { Explained, Notice, Pick } from "../ui";
import { LimitField } from "../ui/controls";

interface Props {
  policy: OutputPolicy;
  onChange: (checks: PolicyCheck[]) => void;
}

const OFF = "nothing";
const ALWAYS = {
  [OFF]: "not looked for",
  report: "note it",
  warn: "warn",
  stop: "stop the document",
};

/** Every check that can be made, what follows from it, and its limit. */
export function ChecksEditor({ policy, onChange }: Props) {
  const kinds = useQuery(checksQuery);
  const made = policy.checks ?? [];
  const put = (kind: CheckKind, part: Partial<PolicyCheck> | null) => {
    const what = kind.what as PolicyCheck["what"];
    const before = made.find((c) => c.what === what);
    const rest = made.filter((c) => c.what !== what);
    if (part === null) return onChange(rest);
    const after: PolicyCheck = { what, severity: "warn", limit: null, ...before, ...part };
    // A check keeps its place; a new one goes to the end.
    onChange(before ? made.map((c) => (c.what === what ? after : c)) : [...rest, after]);
  };
  if (kinds.error) return <Notice problem={kinds.error} />;
  return (
    <Box
      role="group"
      aria-label="Preflight checks"
      sx={{ mt: 2, pt: 1.5, borderTop: 1, borderColor: "text.primary" }}
    >
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        Preflight checks
      </Typography>
      <Box sx={{ columnCount: 2, columnGap: 4, "& > *": { breakInside: "avoid" } }}>
        {(kinds.data ?? []).map((kind) => {
          const check = made.find((c) => c.what === kind.what);
          const options: Record<string, string> = kind.mends
            ? { ...ALWAYS, mend: "mend it" }
            : ALWAYS;
          return (
            <Box
              key={kind.what}
              sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 30 }}
            >
              <Typography sx={{ flex: 1, opacity: check ? 1 : 0.75 }}>
                <Explained
                  text={[kind.help, kind.mends && `Mended: ${kind.mends}`]
                    .filter(Boolean)
                    .join(" ")}
                >
                  {kind.title}
                </Explained>
              </Typography>
              {check && kind.start !== null && (
                <LimitField
                  label={`Limit of ${kind.title.toLowerCase()}`}
                  value={check.limit ?? kind.start}
                  unit={kind.unit}
                  min={kind.low}
                  max={kind.high}
                  onRest={(limit) => put(kind, { limit })}
                />
              )}
              <Pick<string>
                label={`What follows from ${kind.title.toLowerCase()}`}
                width={132}
                value={check?.severity ?? OFF}
                options={options}
                onChange={(severity) =>
                  put(
                    kind,
                    severity === OFF
                      ? null
                      : { severity: severity as NonNullable<PolicyCheck["severity"]> },
                  )
                }
              />
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
