import { Box, Checkbox, FormControlLabel, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";

import { api, ask, type Profile } from "../api";
import { profilesQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { tagsQuery } from "../queries/profiles";
import { Explained, Form, FormEnd, FormLine, Pick, useDraft } from "../ui";
import { number } from "../ui/numbers";

type Side = "none" | "forward" | "backward" | "one";
const SIDES = { forward: ["A2B0", "A2B1", "A2B2"], backward: ["B2A0", "B2A1", "B2A2"] } as const;

interface Given {
  [part: string]: unknown;
  description: string;
  side: Side;
  tag: string;
  /** The profile that tables are taken from. */
  from: string;
  repair: boolean;
}

/** A changed copy: another name, one side of another profile, repair of what decides no colour. */
export function CopyPanel({ profile, onClose }: { profile: Profile; onClose: () => void }) {
  const client = useQueryClient();
  const profiles = useQuery(profilesQuery);
  const copy = useMutation({
    mutationFn: async ({ description, side, tag, from, repair }: Given) => {
      let tags = {};
      if (side === "one" && from) tags = { [tag]: Number(from) };
      else if (side !== "none" && side !== "one" && from) {
        const there = await ask(
          api.GET("/api/profiles/{id}/tags", { params: { path: { id: Number(from) } } }),
        );
        tags = Object.fromEntries(
          SIDES[side].filter((t) => there.some((x) => x.name === t)).map((t) => [t, Number(from)]),
        );
      }
      return ask(
        api.POST("/api/profiles/{id}/copy", {
          params: { path: { id: profile.id } },
          body: { description, tags, repair },
        }),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: keys.profiles, exact: true }),
  });
  const form = useDraft<Given>(
    { description: profile.description, side: "none", tag: "", from: "", repair: false },
    (given) => copy.mutateAsync(given),
    ({ description }) => (description.trim() ? {} : { description: "A profile needs a name." }),
  );
  const { side, tag, from, repair } = form.draft;
  const tagsThere = useQuery({
    ...tagsQuery(Number(from)),
    enabled: side === "one" && from !== "",
  });
  const others = (profiles.data ?? []).filter(
    (p) =>
      p.id !== profile.id &&
      p.colour_space === profile.colour_space &&
      p.parts.includes("destination"),
  );
  return (
    <Form
      of={form}
      label="A changed copy"
      problem={copy.error}
      sx={{
        border: 2,
        borderColor: "text.primary",
        bgcolor: "background.paper",
        p: 1.5,
        mb: 2,
        maxWidth: 620,
      }}
    >
      <Typography sx={{ fontWeight: 700 }}>
        A changed copy; the profile itself stays as it is
      </Typography>
      <FormLine of={form} name="description" label="Description" most={200} sx={{ mt: 1.5 }} />
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1, mt: 1 }}>
        <Typography>
          <Explained text="The forward side says what inks print, the backward side makes inks of colours. Colour space, connection space, version and white must agree.">
            Tables
          </Explained>
        </Typography>
        <Pick
          label="Which tables are taken"
          width={210}
          value={side}
          options={{
            none: "its own",
            forward: "forward side of",
            backward: "backward side of",
            one: "one tag of",
          }}
          onChange={(next) => form.put({ side: next })}
        />
        {side !== "none" && (
          <Pick
            label="From which profile"
            width={220}
            value={from}
            options={{
              "": "choose…",
              ...Object.fromEntries(others.map((p) => [String(p.id), p.description])),
            }}
            onChange={(next) => form.put({ from: next })}
          />
        )}
        {side === "one" && from && (
          <Pick
            label="Which tag"
            width={190}
            value={tag}
            options={{
              "": "choose a tag…",
              ...Object.fromEntries(
                (tagsThere.data ?? []).map((t) => [t.name, `${t.name}, ${t.meaning}`]),
              ),
            }}
            onChange={(next) => form.put({ tag: next })}
          />
        )}
      </Box>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={repair}
            onChange={(e) => form.put({ repair: e.target.checked })}
          />
        }
        label={<Typography>Mend what decides no colour: header, alignment, profile ID</Typography>}
      />
      {copy.data && (
        <Box role="status" sx={{ my: 1 }}>
          {copy.data.done.map((d) => (
            <Typography key={d}>{d}</Typography>
          ))}
          {copy.data.round_trip && (
            <Typography>
              <Explained of="round_trip">Its two sides give back</Explained>{" "}
              {number(copy.data.round_trip.mean, 2)} ΔE00 in the mean,{" "}
              {number(copy.data.round_trip.p95, 2)} at 95 %.
            </Typography>
          )}
          <Typography>
            It is in the library as{" "}
            <Box
              component={Link}
              to={`/profiles/${copy.data.profile.id}`}
              sx={{ color: "text.primary", fontWeight: 650 }}
            >
              {copy.data.profile.description}
            </Box>
            .
          </Typography>
        </Box>
      )}
      <FormEnd
        keep="Make the copy"
        disabled={copy.isPending || (side !== "none" && !from) || (side === "one" && !tag)}
        onClose={onClose}
      />
    </Form>
  );
}
