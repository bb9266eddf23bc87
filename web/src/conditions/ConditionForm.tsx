import { Box, Button, TextField, Typography } from "@mui/material";
import { type FormEvent, type ReactNode, useState } from "react";

import type { ConditionChange } from "../api";
import { Explained, Pick } from "../ui";
import { NumberField, Section, Toggle } from "../ui/controls";
import { PROCESSES } from "./words";

interface Props {
  start: ConditionChange;
  /** Ink names of the profile; without any the process takes RGB. */
  inks: string[];
  /** Why the proposal says what it says, by field. */
  reasons?: Record<string, string>;
  keep: string;
  busy: boolean;
  onKeep: (draft: ConditionChange) => void;
  onClose?: () => void;
  closeLabel?: string;
  children?: ReactNode;
}

/** Where the profile proposes no black of its own, as the ink rules start. */
const USUAL_BLACK: NonNullable<NonNullable<ConditionChange["ink_rules"]>["black"]> = {
  method: "gcr",
  strength: 50,
  start: 20,
  limit: 100,
  reach: 45,
};

const Why = ({ text }: { text: string | undefined }) =>
  text ? (
    <Typography variant="body2" color="text.secondary" sx={{ mt: -0.25, mb: 0.5 }}>
      {text}
    </Typography>
  ) : null;

/** A condition in one short form; what is rarely set stands folded below. */
export function ConditionForm({
  start,
  inks,
  reasons = {},
  keep,
  busy,
  onKeep,
  onClose,
  closeLabel = "Close",
  children,
}: Props) {
  const [draft, setDraft] = useState(start);
  const put = (part: Partial<ConditionChange>) => setDraft({ ...draft, ...part });
  const rules = draft.ink_rules ?? {};
  const black = rules.black ?? null;
  const supplies = draft.supplies ?? {};
  const ticket = draft.ticket ?? {};
  const inked = inks.length > 0;
  const text = (
    field: "name" | "printer" | "medium",
    label: string,
    more: Record<string, unknown> = {},
  ) => (
    <TextField
      label={label}
      value={draft[field] ?? ""}
      onChange={(e) => put({ [field]: e.target.value })}
      slotProps={{ htmlInput: { maxLength: 100 } }}
      sx={{ mt: 1.25 }}
      {...more}
    />
  );
  const supply = (ink: string) => supplies.inks?.[ink] ?? { film: 0, price: 0 };
  const putSupply = (ink: string, part: { film?: number; price?: number }) =>
    put({
      supplies: { ...supplies, inks: { ...supplies.inks, [ink]: { ...supply(ink), ...part } } },
    });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onKeep(draft);
  };
  return (
    <Box component="form" aria-label="Printing condition" onSubmit={submit} sx={{ minWidth: 0 }}>
      {text("name", "Name", { required: true, sx: { mt: 0.5 } })}
      {text("printer", "Printer or press")}
      {text("medium", "Medium")}
      <Box sx={{ display: "flex", alignItems: "center", minHeight: 34, gap: 1, mt: 0.5 }}>
        <Typography sx={{ flex: 1 }}>
          <Explained text="How the inks get onto the medium; checks before delivery and aids go by it.">
            Process
          </Explained>
        </Typography>
        <Pick
          label="Process"
          width={150}
          value={draft.process ?? "offset"}
          options={PROCESSES}
          onChange={(process) => put({ process })}
        />
      </Box>
      <Why text={reasons.process} />
      {inked && (
        <NumberField
          label="Total area coverage"
          help="The most ink in any spot. Results are checked against it, and own ink rules start from it."
          value={rules.tac ?? 400}
          unit="%"
          min={50}
          max={Math.max(100, Math.min(100 * inks.length, 800))}
          onRest={(tac) => tac !== null && put({ ink_rules: { ...rules, tac } })}
        />
      )}
      {inked && <Why text={reasons.tac} />}
      <Toggle
        label="Mirrored"
        help="Deliveries are mirrored, for transfer to the medium."
        checked={draft.mirror ?? false}
        onChange={(mirror) => put({ mirror })}
      />
      {inked && (
        <Section
          title="Black and dots"
          fact={
            black
              ? `from ${black.start ?? 20} %, at most ${black.limit ?? 100} %`
              : "as the profile has it"
          }
        >
          <NumberField
            label="Black starts at"
            help="Darkness from which own ink rules use black: 0 is paper, 100 the darkest grey. Empty: own rules keep the profile's black."
            value={black?.start ?? null}
            unit="%"
            min={0}
            max={100}
            empty="profile"
            onRest={(start) =>
              put({
                ink_rules: {
                  ...rules,
                  black: start === null ? null : { ...(black ?? USUAL_BLACK), start },
                },
              })
            }
          />
          <NumberField
            label="Most black"
            help="The highest tone value of black in own ink rules."
            value={black?.limit ?? null}
            unit="%"
            min={0}
            max={100}
            empty="profile"
            onRest={(limit) =>
              limit !== null &&
              put({ ink_rules: { ...rules, black: { ...(black ?? USUAL_BLACK), limit } } })
            }
          />
          <Why text={reasons.black} />
          <NumberField
            label="Tints vanish below"
            help="Dots under this do not print on the press; 0 where all do."
            value={draft.least_dot ?? 0}
            unit="%"
            min={0}
            max={20}
            step={0.1}
            onRest={(least) => put({ least_dot: least ?? 0 })}
          />
          <Why text={reasons.least_dot} />
        </Section>
      )}
      <Section
        title="Ink and prices"
        fact={
          supplies.medium_price
            ? `medium ${supplies.medium_price} ${supplies.currency ?? "EUR"}/m²`
            : "not set"
        }
      >
        {inks.map((ink) => (
          <Box key={ink} role="group" aria-label={`Ink ${ink}`}>
            <NumberField
              label={`${ink}: film of a full tint`}
              help="Millilitres that a full tint lays on a square metre."
              value={supply(ink).film}
              unit="ml"
              min={0}
              max={1000}
              step={0.1}
              onRest={(film) => putSupply(ink, { film: film ?? 0 })}
            />
            <NumberField
              label={`${ink}: price of a litre`}
              help="Price of this ink."
              value={supply(ink).price}
              unit={supplies.currency ?? "EUR"}
              min={0}
              max={1_000_000}
              onRest={(price) => putSupply(ink, { price: price ?? 0 })}
            />
          </Box>
        ))}
        <NumberField
          label="Medium, a square metre"
          help="Price of the medium."
          value={supplies.medium_price ?? 0}
          unit={supplies.currency ?? "EUR"}
          min={0}
          max={1_000_000}
          step={0.01}
          onRest={(price) => put({ supplies: { ...supplies, medium_price: price ?? 0 } })}
        />
      </Section>
      <Section
        title="Ticket and notes"
        fact={ticket.passes && ticket.passes > 1 ? `${ticket.passes} passes` : ""}
      >
        <NumberField
          label="Passes"
          help="Ink limits hold for this number."
          value={ticket.passes ?? 1}
          unit=""
          min={1}
          max={64}
          onRest={(passes) => put({ ticket: { ...ticket, passes: Math.round(passes ?? 1) } })}
        />
        <NumberField
          label="Drying"
          help="Before winding, transfer or the next side."
          value={ticket.drying_minutes ?? 0}
          unit="min"
          min={0}
          max={10_000}
          onRest={(v) => put({ ticket: { ...ticket, drying_minutes: v ?? 0 } })}
        />
        <TextField
          label="Notes"
          multiline
          minRows={2}
          value={draft.notes ?? ""}
          onChange={(e) => put({ notes: e.target.value })}
          slotProps={{ htmlInput: { maxLength: 2000 } }}
          sx={{ mt: 1 }}
        />
      </Section>
      {children}
      <Box sx={{ display: "flex", gap: 1, mt: 1.5 }}>
        <Button type="submit" variant="contained" disabled={busy || !draft.name.trim()}>
          {keep}
        </Button>
        {onClose && <Button onClick={onClose}>{closeLabel}</Button>}
      </Box>
    </Box>
  );
}
