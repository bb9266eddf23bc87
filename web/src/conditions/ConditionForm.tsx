import { Box, Typography } from "@mui/material";
import type { ReactNode } from "react";

import { type ConditionChange, DEFAULTS, type Said } from "../api";
import { Explained, Form, FormEnd, FormLine, Pick, TicketNumbers, useDraft } from "../ui";
import { NumberField, Section, Toggle } from "../ui/controls";
import { PROCESSES } from "./words";

interface Props {
  start: ConditionChange;
  /** Ink names of the profile; without any the process takes RGB. */
  inks: string[];
  /** Why the proposal says what it says, by field. */
  reasons?: Record<string, Said>;
  keep: string;
  busy: boolean;
  problem?: Error | null;
  onKeep: (draft: ConditionChange) => unknown;
  onClose?: () => void;
  closeLabel?: string;
  children?: ReactNode;
}

const named = (draft: ConditionChange) =>
  draft.name.trim() ? {} : { name: "A condition needs a name." };

const Why = ({ of }: { of: Said | undefined }) =>
  of ? (
    <Typography variant="body2" color="text.secondary" sx={{ mt: -0.25, mb: 0.5 }}>
      {of.text}
    </Typography>
  ) : null;

/** A condition in one short form; what is rarely set stands folded below. */
export function ConditionForm({
  start,
  inks,
  reasons = {},
  keep,
  busy,
  problem,
  onKeep,
  onClose,
  closeLabel = "Close",
  children,
}: Props) {
  const form = useDraft<ConditionChange>(start, onKeep, named);
  const { draft, put } = form;
  const rules = draft.ink_rules ?? {};
  const black = rules.black ?? null;
  const supplies = draft.supplies ?? {};
  const ticket = draft.ticket ?? {};
  const inked = inks.length > 0;
  const supply = (ink: string) => supplies.inks?.[ink] ?? { film: 0, price: 0 };
  const putSupply = (ink: string, part: { film?: number; price?: number }) =>
    put({
      supplies: { ...supplies, inks: { ...supplies.inks, [ink]: { ...supply(ink), ...part } } },
    });
  return (
    <Form of={form} label="Printing condition" {...(problem && { problem })}>
      <FormLine of={form} name="name" label="Name" most={100} required sx={{ mt: 0.5 }} />
      <FormLine of={form} name="printer" label="Printer or press" most={100} sx={{ mt: 1.25 }} />
      <FormLine of={form} name="medium" label="Medium" most={100} sx={{ mt: 1.25 }} />
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
      <Why of={reasons.process} />
      {inked && (
        <NumberField
          label="Total area coverage"
          help="The most ink in any spot. Results are checked against it, and own ink rules start from it."
          value={rules.tac ?? DEFAULTS.InkRules.tac}
          unit="%"
          min={50}
          max={Math.max(100, Math.min(100 * inks.length, 800))}
          onRest={(tac) => tac !== null && put({ ink_rules: { ...rules, tac } })}
        />
      )}
      {inked && <Why of={reasons.tac} />}
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
              ? `from ${black.start ?? DEFAULTS.BlackRule.start} %, at most ${black.limit ?? DEFAULTS.BlackRule.limit} %`
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
                  black: start === null ? null : { ...(black ?? DEFAULTS.BlackRule), start },
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
              put({ ink_rules: { ...rules, black: { ...(black ?? DEFAULTS.BlackRule), limit } } })
            }
          />
          <Why of={reasons.black} />
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
          <Why of={reasons.least_dot} />
        </Section>
      )}
      <Section
        title="Ink and prices"
        fact={
          supplies.medium_price
            ? `medium ${supplies.medium_price} ${supplies.currency ?? DEFAULTS.Supplies.currency}/m²`
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
              unit={supplies.currency ?? DEFAULTS.Supplies.currency}
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
          unit={supplies.currency ?? DEFAULTS.Supplies.currency}
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
        <TicketNumbers
          numbers={{ ...DEFAULTS.ConditionTicket, ...ticket }}
          onChange={(part) => put({ ticket: { ...ticket, ...part } })}
        />
        <FormLine
          of={form}
          name="notes"
          label="Notes"
          multiline
          minRows={2}
          most={2000}
          sx={{ mt: 1 }}
        />
      </Section>
      {children}
      <FormEnd keep={keep} disabled={busy} onClose={onClose} closeLabel={closeLabel} />
    </Form>
  );
}
