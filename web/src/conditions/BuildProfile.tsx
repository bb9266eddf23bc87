import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { api, ask, type BlackRule, type BuildReport, DEFAULTS, type Profile } from "../api";
import { keys } from "../queries/keys";
import { startBuild } from "../queries/upload";
import { Evenness, Explained, Form, FormEnd, FormLine, useDraft } from "../ui";
import { BlackControls } from "../ui/BlackControls";
import { Choice, NumberField } from "../ui/controls";
import { number } from "../ui/numbers";
import {
  type Perceptual,
  PERCEPTUAL_CONTROLS,
  PERCEPTUAL_KINDS,
  PLAIN_PERCEPTUAL,
} from "../ui/perceptual";

interface Props {
  file: File;
  /** What was asked before, where it is to be built once more. */
  begin?: Asked | null;
  onBuilt: (profile: Profile, report: BuildReport, asked: Asked) => void;
  onClose: () => void;
}

export interface Asked extends Required<Perceptual> {
  name: string;
  tac: number;
  black: BlackRule;
  size: "small" | "medium" | "large";
  version: "2" | "4";
  readings: keyof typeof READINGS;
}
const named = ({ name }: Asked) => (name.trim() ? {} : { name: "A profile needs a name." });

const SIZES = {
  small: "Small, 0.5 MB: previews and mail",
  medium: "Medium, 1.5 MB",
  large: "Large, 4 MB: fine gradients",
} as const;
const READINGS = { fitting: "Leave them out", all: "Use them" } as const;
const VERSIONS = { "2": "2, read everywhere", "4": "4" } as const;

/** As the server wants it: one level of words and numbers. */
const flat = ({ black, readings, ...rest }: Asked) => ({
  ...rest,
  use_all: String(readings === "all"),
  black_method: black.method,
  black_start: black.start,
  black_limit: black.limit,
  black_reach: black.reach,
  strength: black.strength,
});

/** Measurements become a profile: under which rules, how far it is, how well it fits. */
export function BuildProfile({ file, begin, onBuilt, onClose }: Props) {
  const start = useMutation({ mutationFn: (asked: Asked) => startBuild(file, flat(asked)) });
  const form = useDraft<Asked>(
    begin ?? {
      name: file.name.replace(/\.[^.]*$/, ""),
      tac: 300,
      black: DEFAULTS.BlackRule,
      size: "medium",
      version: "2",
      readings: "fitting",
      ...PLAIN_PERCEPTUAL,
    },
    (draft) => start.mutateAsync(draft),
    named,
  );
  const { draft: asked, put } = form;
  const id = start.data?.id;
  const work = useQuery({
    queryKey: [...keys.builds, id],
    queryFn: () => ask(api.GET("/api/builds/{id}", { params: { path: { id: id ?? 0 } } })),
    enabled: id !== undefined,
    refetchInterval: (query) =>
      ["done", "failed", "cancelled"].includes(query.state.data?.state ?? "") ? false : 700,
  });
  const cancel = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/queue/{kind}/{id}/{act}", {
          params: { path: { kind: "build", id: String(id ?? 0), act: "cancel" } },
        }),
      ),
  });
  const done = work.data?.state === "done" ? work.data : null;
  useEffect(() => {
    if (done?.profile) onBuilt(done.profile, done.report, asked);
  }, [done, onBuilt, asked]);
  const state = work.data?.state;
  const failed = state === "failed" || state === "cancelled";
  if (id !== undefined && !failed) {
    const share = work.data?.progress ?? 0;
    return (
      <Box role="group" aria-label="Profile being built" sx={{ maxWidth: 460, py: 2 }}>
        <Typography>
          Building “{asked.name}” from {start.data?.patches} patches: {number(share * 100, 0)} %
        </Typography>
        <LinearProgress
          variant="determinate"
          value={share * 100}
          aria-label="Building the profile"
          sx={{ my: 1 }}
        />
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          It goes on when this page is left; the queue shows it, and the library has it afterwards.
        </Typography>
        <Button disabled={cancel.isPending} onClick={() => cancel.mutate()}>
          Cancel
        </Button>
      </Box>
    );
  }
  return (
    <Form of={form} label="Build a profile" problem={start.error} sx={{ maxWidth: 960 }}>
      <Typography sx={{ fontWeight: 700 }}>
        {file.name} holds measurements; a profile is built of them
      </Typography>
      {failed && (
        <Typography role="alert" sx={{ fontWeight: 650, mt: 1 }}>
          {state === "cancelled" ? "The build was cancelled." : work.data?.error}
        </Typography>
      )}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr)", md: "repeat(2, minmax(0, 1fr))" },
          columnGap: 4,
        }}
      >
        <Box>
          <FormLine
            of={form}
            name="name"
            label="Name of the profile"
            most={200}
            sx={{ mt: 1.5, mb: 0.5 }}
          />
          <NumberField
            label="Total area coverage"
            help="The most ink in any spot of the profile’s tables."
            value={asked.tac}
            unit="%"
            min={50}
            max={800}
            onRest={(tac) => tac !== null && put({ tac })}
          />
          <Choice
            label="Tables"
            help="How many colours the profile’s tables hold; what lies between is interpolated. Large ones follow the press most closely and take longest to load."
            value={asked.size}
            options={SIZES}
            onChange={(size) => put({ size })}
          />
          <Choice
            label="ICC version"
            value={asked.version}
            options={VERSIONS}
            onChange={(version) => put({ version })}
          />
          <Choice
            label="Readings that all others contradict"
            help="A misread strip, a scratch, a sheet laid wrongly: what was read is far from what the patches around it say. They are named either way."
            value={asked.readings}
            options={READINGS}
            onChange={(readings) => put({ readings })}
          />
          <Choice
            label="Perceptual"
            help="How colours that the press cannot print are fitted into those it can, under the perceptual intent."
            value={asked.kind}
            options={PERCEPTUAL_KINDS}
            onChange={(kind) => put({ kind })}
          />
          {PERCEPTUAL_CONTROLS.map(([key, label, unit, end, help]) => (
            <NumberField
              key={key}
              label={label}
              help={help}
              value={asked[key]}
              unit={unit}
              min={-end}
              max={end}
              onRest={(value) => value !== null && put({ [key]: value })}
            />
          ))}
        </Box>
        <Box sx={{ mt: 1 }}>
          <BlackControls
            black={asked.black}
            onLive={(black) => put({ black })}
            onRest={(black) => put({ black })}
          />
        </Box>
      </Box>
      <FormEnd keep="Build the profile" disabled={start.isPending} onClose={onClose} />
    </Form>
  );
}

/** How well a built profile fits its measurements. */
export function BuiltFit({ report }: { report: BuildReport }) {
  const { forward_fit: fit, round_trip: trip } = report;
  return (
    <Typography sx={{ mb: 1 }}>
      <Explained of="forward_fit">Fit to the measurements</Explained> {number(fit.mean, 2)} ΔE00 in
      the mean, {number(fit.p95, 2)} at 95 %; <Explained of="round_trip">round trip</Explained>{" "}
      {number(trip.mean, 2)}, {number(trip.p95, 2)} at 95 %
      {report.stray_ink != null && (
        <>
          ; <Explained of="stray_ink">stray ink</Explained> in solids at most{" "}
          {number(report.stray_ink, 1)} %
        </>
      )}
      .{report.greys && <Evenness greys={report.greys} />}
    </Typography>
  );
}
