import { Box, Checkbox, FormControlLabel, InputBase, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, ask, type Condition, type InkChannel, onRevision } from "../api";
import { labColour } from "../plots/labColour";
import { Explained, Form, FormEnd, Pick, useDraft } from "../ui";

interface Props {
  condition: Condition;
  onDone: (moved: number | null) => void;
}

interface Ink {
  name: string;
  /** The role, with what it refers to by places: "light:1", "extra:1:2". */
  role: string;
}

/** What an ink may be for, among inks as they are now. */
export function rolesFor(inks: readonly Ink[], place: number): Record<string, string> {
  const called = (i: number) => inks[i]?.name || `ink ${i + 1}`;
  const of = (role: string) =>
    inks.flatMap((ink, i) => (ink.role === role && i !== place ? [i] : []));
  const colours = of("colour");
  const pairs = colours.flatMap((a, k) => colours.slice(k + 1).map((b) => [a, b] as const));
  return {
    black: "black",
    colour: "a colour of the greys",
    ...Object.fromEntries(
      [...of("black"), ...colours].map((i) => [`light:${i}`, `light version of ${called(i)}`]),
    ),
    ...(colours.length === 3 &&
      Object.fromEntries(
        pairs.map(([a, b]) => [`extra:${a}:${b}`, `extra, between ${called(a)} and ${called(b)}`]),
      )),
    none: "not used by separation",
  };
}

/** The form's inks of a profile's channels. */
export function inksOfChannels(channels: readonly InkChannel[]): Ink[] {
  const at = (name: string) => channels.findIndex((c) => c.name === name);
  return channels.map((c) => ({
    name: c.name,
    role:
      c.role === "light"
        ? `light:${at(c.of ?? "")}`
        : c.role === "extra" && c.between
          ? `extra:${c.between
              .map(at)
              .sort((p, q) => p - q)
              .join(":")}`
          : c.role === "extra"
            ? "none"
            : c.role,
  }));
}

/** The form's inks as the server takes them. */
export function channelsOf(inks: readonly Ink[]) {
  const called = (place: string | undefined) => inks[Number(place)]?.name ?? "";
  return inks.map(({ name, role }) => {
    const [kind = "", first, second] = role.split(":");
    return {
      name,
      role: kind,
      ...(kind === "light" && { of: called(first) }),
      ...(kind === "extra" && { between: [called(first), called(second)] }),
    };
  });
}

/** What the inks of one's own condition are called and are for. */
export function InkEditor({ condition, onDone }: Props) {
  const client = useQueryClient();
  const channels = condition.profile.inks?.channels ?? [];
  const start = inksOfChannels(channels);
  const make = useMutation({
    mutationFn: ({ inks, carry }: { inks: Ink[]; carry: boolean }) =>
      ask(
        api.POST("/api/conditions/{id}/inks", {
          params: { path: { id: condition.id } },
          body: { channels: channelsOf(inks), carry } as never,
          ...onRevision(condition.revision),
        }),
      ),
    onSuccess: async (done) => {
      await client.invalidateQueries();
      onDone(done.moved);
    },
  });
  const form = useDraft({ inks: start, carry: true }, (draft) => make.mutateAsync(draft));
  const { inks, carry } = form.draft;
  const put = (place: number, part: Partial<Ink>) =>
    form.put({ inks: inks.map((ink, i) => (i === place ? { ...ink, ...part } : ink)) });
  const changed = JSON.stringify(inks) !== JSON.stringify(start);
  return (
    <Form
      of={form}
      label="Inks of the condition"
      problem={make.error}
      sx={{ border: 2, borderColor: "text.primary", p: 1.5, mt: 1.5, maxWidth: 620 }}
    >
      <Typography sx={{ fontWeight: 700 }}>
        <Explained text="It is written into a copy of the profile, which takes the former’s place: names into its table of colorants, so that other programs read them too.">
          Names and parts of the inks
        </Explained>
      </Typography>
      {inks.map((ink, i) => {
        const roles = rolesFor(inks, i);
        const [l = 0, a = 0, b = 0] = channels[i]?.solid ?? [];
        return (
          <Box
            key={i}
            sx={{
              display: "grid",
              gridTemplateColumns: "24px 26px minmax(120px, 1fr) minmax(220px, 1.4fr)",
              gap: 1,
              alignItems: "center",
              mt: 0.75,
            }}
          >
            <Typography color="text.secondary">{i + 1}</Typography>
            <Box aria-hidden sx={{ height: 20, bgcolor: labColour([l, a, b]) }} />
            <InputBase
              value={ink.name}
              inputProps={{ "aria-label": `Name of ink ${i + 1}`, maxLength: 31 }}
              onChange={(e) => put(i, { name: e.target.value })}
              sx={{ fontSize: 13, border: 1, borderColor: "text.secondary", px: 0.75 }}
            />
            <Pick
              label={`Part of ink ${i + 1}`}
              width="100%"
              value={ink.role in roles ? ink.role : ""}
              options={ink.role in roles ? roles : { "": "choose…", ...roles }}
              onChange={(role) => role && put(i, { role })}
            />
          </Box>
        );
      })}
      <FormControlLabel
        sx={{ mt: 1 }}
        control={
          <Checkbox
            size="small"
            checked={carry}
            onChange={(e) => form.put({ carry: e.target.checked })}
          />
        }
        label={<Typography>Recipes and policies take it; each recipe can go back</Typography>}
      />
      <FormEnd keep="Make it so" disabled={!changed} onClose={() => onDone(null)} />
    </Form>
  );
}
