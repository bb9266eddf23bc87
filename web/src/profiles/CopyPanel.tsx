import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, ask, type Profile } from "../api";
import { profilesQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { tagsQuery } from "../queries/profiles";
import { Explained, Notice, Pick } from "../ui";
import { number } from "../ui/numbers";

type Side = "none" | "forward" | "backward" | "one";
const SIDES = { forward: ["A2B0", "A2B1", "A2B2"], backward: ["B2A0", "B2A1", "B2A2"] } as const;

/** A changed copy: another name, one side of another profile, repair of what decides no colour. */
export function CopyPanel({ profile, onClose }: { profile: Profile; onClose: () => void }) {
  const client = useQueryClient();
  const profiles = useQuery(profilesQuery);
  const [name, setName] = useState(profile.description);
  const [side, setSide] = useState<Side>("none");
  const [tag, setTag] = useState("");
  const [from, setFrom] = useState("");
  const [repair, setRepair] = useState(false);
  const tagsThere = useQuery({
    ...tagsQuery(Number(from)),
    enabled: side === "one" && from !== "",
  });
  const copy = useMutation({
    mutationFn: async () => {
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
          body: { description: name, tags, repair },
        }),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: keys.profiles, exact: true }),
  });
  const others = (profiles.data ?? []).filter(
    (p) =>
      p.id !== profile.id &&
      p.colour_space === profile.colour_space &&
      p.parts.includes("destination"),
  );
  return (
    <Box
      role="group"
      aria-label="A changed copy"
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
      <TextField
        label="Description"
        value={name}
        onChange={(e) => setName(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 200 } }}
        sx={{ mt: 1.5 }}
      />
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
          onChange={setSide}
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
            onChange={setFrom}
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
            onChange={setTag}
          />
        )}
      </Box>
      <FormControlLabel
        control={
          <Checkbox size="small" checked={repair} onChange={(e) => setRepair(e.target.checked)} />
        }
        label={<Typography>Mend what decides no colour: header, alignment, profile ID</Typography>}
      />
      {copy.error && <Notice problem={copy.error} />}
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
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Button
          variant="contained"
          disabled={copy.isPending || (side !== "none" && !from) || (side === "one" && !tag)}
          onClick={() => copy.mutate()}
        >
          Make the copy
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Box>
    </Box>
  );
}
