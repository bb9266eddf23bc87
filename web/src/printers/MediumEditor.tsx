import { Box, TextField, Typography } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { type ColourDuty, type MediumChange, type MediumSettings } from "../api";
import { NewConditionDialog } from "../conditions";
import { conditionsQuery, profilesQuery } from "../queries/conditions";
import { policiesQuery } from "../queries/policies";
import { judgedQuery } from "../queries/printers";
import {
  conditionGroups,
  type EditorProps,
  Explained,
  Form,
  FormEnd,
  FormLine,
  Pick,
  TicketNumbers,
  useDraft,
  useUnkept,
} from "../ui";
import { NumberField, Toggle } from "../ui/controls";
import { hasInks } from "../ui/wording";
import { RollLine } from "./RollLine";
import { MANAGERS, STATIONS } from "./words";

const named = (draft: MediumChange) =>
  draft.name.trim() ? {} : { name: "A medium needs a name." };

/** A medium being edited; the guard's answer follows every change. */
export function MediumEditor({
  start,
  error,
  onKeep,
  onAnyway,
  onClose,
  leaving,
}: EditorProps<MediumChange>) {
  const form = useDraft<MediumChange>(start, onKeep, named);
  const unkept = useUnkept(form, "The medium", leaving);
  const { draft, put } = form;
  const [making, setMaking] = useState(false);
  const conditions = useQuery(conditionsQuery);
  const policies = useQuery(policiesQuery);
  const profiles = useQuery(profilesQuery);
  const printed = (conditions.data ?? []).filter((c) => hasInks(c) || c.process !== "display");
  const condition = conditions.data?.find((c) => c.id === draft.condition);
  const takesRgb = condition !== undefined && !hasInks(condition);
  const driven = draft.duty.driver === "on" || draft.duty.driver === "always";
  const judged = useQuery({ ...judgedQuery(draft), enabled: draft.name !== "" });
  const duty = (part: Partial<ColourDuty>) => put({ duty: { ...draft.duty, ...part } });
  const set = (part: Partial<MediumSettings>) => put({ settings: { ...draft.settings, ...part } });
  const s = draft.settings;
  const line = (label: string, help: string, control: React.ReactNode) => (
    <Box sx={{ display: "flex", alignItems: "center", minHeight: 32, gap: 1 }}>
      <Typography sx={{ flex: 1 }}>
        <Explained text={help}>{label}</Explained>
      </Typography>
      {control}
    </Box>
  );
  return (
    <Form
      of={form}
      label="Medium being edited"
      problem={error}
      onTheirs={onClose}
      onMine={onAnyway}
      sx={{ border: 2, borderColor: "text.primary", bgcolor: "background.paper", p: 2, mb: 2 }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 4 }}>
        <Box>
          <FormLine
            of={form}
            name="name"
            label="Name of the medium"
            unlabelled
            placeholder="Name of the medium"
            most={100}
            sx={{ mb: 1 }}
          />
          {line(
            "Prints",
            "The printing condition: its profile, inks and ink rules.",
            <Pick
              label="Condition"
              width={210}
              value={String(draft.condition)}
              options={{ new: "a new condition…" }}
              groups={conditionGroups(printed)}
              onChange={(v) => {
                if (v === "new") setMaking(true);
                else put({ condition: Number(v) });
              }}
            />,
          )}
          <NewConditionDialog
            open={making}
            onClose={() => setMaking(false)}
            onMade={(made) => {
              setMaking(false);
              put({ condition: made.id });
            }}
          />
          {line(
            "Policy",
            "What Plinto does to documents that are sent to this medium.",
            <Pick
              label="Policy"
              width={210}
              value={String(draft.policy ?? "")}
              options={{
                "": "none, pass files on",
                ...(start.policy && !policies.data?.some((p) => p.id === start.policy)
                  ? { [String(start.policy)]: "the retired one" }
                  : {}),
                ...Object.fromEntries((policies.data ?? []).map((p) => [String(p.id), p.name])),
              }}
              onChange={(v) => put({ policy: v ? Number(v) : null })}
            />,
          )}
          <Typography variant="h2" sx={{ mt: 1.5 }}>
            Who manages colour
          </Typography>
          {line(
            "By declaration",
            "The one place that is to convert colours on this way.",
            <Pick
              label="Colour is managed by"
              width={210}
              value={draft.duty.manager}
              options={MANAGERS}
              onChange={(manager) => duty({ manager })}
            />,
          )}
          {line(
            "Colour in the driver",
            "How the printer's driver is set.",
            <Pick
              label="Colour in the driver"
              width={210}
              value={draft.duty.driver}
              options={STATIONS}
              onChange={(driver) => duty({ driver })}
            />,
          )}
          {driven &&
            line(
              "The driver’s own profile",
              "Which the driver takes for this medium by itself; of the library.",
              <Pick
                label="The driver’s own profile"
                width={210}
                value={draft.duty.driver_profile}
                options={[
                  ["", "not known"],
                  ...(profiles.data ?? [])
                    .filter((p) => p.colour_space === condition?.profile.colour_space)
                    .map((p): [string, string] => [p.sha256, p.description]),
                ]}
                onChange={(driver_profile) => duty({ driver_profile })}
              />,
            )}
          {(driven || draft.duty.measured_through) && (
            <Toggle
              label="Measured through the driver"
              checked={draft.duty.measured_through}
              onChange={(measured_through) => duty({ measured_through })}
              help="The condition’s chart was printed through the driver as it is set, so that its conversion belongs to the printer and Plinto converts before it."
            />
          )}
          {line(
            "Colour in the RIP",
            "How the RIP is set.",
            <Pick
              label="Colour in the RIP"
              width={210}
              value={draft.duty.rip}
              options={STATIONS}
              onChange={(rip) => duty({ rip })}
            />,
          )}
          <Box role="status" aria-label="The guard" sx={{ mt: 1 }}>
            {(judged.data ?? []).map((j) => (
              <Typography key={j.reason.text} data-level={j.level}>
                <b>{j.level === "fine" ? "Fine." : j.level === "warn" ? "Mind:" : "Refused:"}</b>{" "}
                {j.reason.text} {j.reason.remedy}
              </Typography>
            ))}
          </Box>
        </Box>
        <Box>
          <Typography variant="h2">What the operator sets</Typography>
          {line(
            "Media type",
            "As the printer's panel names it.",
            <TextField
              value={s.media_type}
              onChange={(e) => set({ media_type: e.target.value })}
              slotProps={{ htmlInput: { maxLength: 100, "aria-label": "Media type" } }}
              sx={{ width: 180 }}
            />,
          )}
          <Toggle
            label="Mirrored"
            checked={s.mirror}
            onChange={(mirror) => set({ mirror })}
            help="The print is wanted mirrored, for transfer. Exactly one place must do it: the policy's file, the driver or the machine."
          />
          <Toggle
            label="The driver mirrors"
            checked={s.mirror_driver}
            onChange={(mirror_driver) => set({ mirror_driver })}
            help="How the driver is set."
          />
          <Toggle
            label="The machine mirrors"
            checked={s.mirror_machine}
            onChange={(mirror_machine) => set({ mirror_machine })}
            help="How the machine or its RIP is set."
          />
          <TicketNumbers numbers={s} onChange={set} />
          <NumberField
            label="Feed"
            help="Correction of the paper step."
            value={s.feed}
            unit="%"
            min={-5}
            max={5}
            step={0.1}
            onRest={(v) => set({ feed: v ?? 0 })}
          />
          {takesRgb && (
            <NumberField
              label="Ink"
              help="What the printer’s inks cost by experience; it makes them of RGB itself, so that Plinto cannot count them. Empty: not known."
              value={s.ink_price}
              unit={`${s.currency}/m²`}
              min={0}
              max={1_000_000}
              step={0.01}
              empty="not known"
              onRest={(ink_price) => set({ ink_price })}
            />
          )}
          <RollLine settings={s} onChange={set} />
        </Box>
      </Box>
      <FormEnd keep="Keep the medium" onClose={onClose} />
      {unkept}
    </Form>
  );
}
