import { Box, Button, InputBase, Typography } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";

import type { OutputPolicy } from "../api";
import { buildText, typedBuild } from "../plots/builds";
import { Explained, Form, useDraft } from "../ui";

interface Props {
  policy: OutputPolicy;
  onChange: (policy: OutputPolicy) => void;
}

const plain = (inks: Record<string, number>) => buildText(inks).replaceAll("\u00a0", " ");

/** Spot colours that a rule converts by inks that are named for them, in place of their own look. */
export function SpotBuilds({ policy, onChange }: Props) {
  const builds = policy.builds ?? {};
  const put = (spot: string, build: Record<string, number> | null) => {
    const others = Object.entries(builds).filter(([n]) => n !== spot);
    onChange({
      ...policy,
      builds: Object.fromEntries(build ? [...others, [spot, build]] : others),
    });
  };
  const form = useDraft({ name: "", build: "" }, ({ name, build }) => {
    const typed = typedBuild(build);
    if (!typed) return;
    put(name.trim(), typed);
    form.reset({ name: "", build: "" });
  });
  const fit = form.draft.name.trim() !== "" && typedBuild(form.draft.build) !== null;
  return (
    <Box role="group" aria-label="Builds of spot colours" sx={{ mt: 2, maxWidth: 620 }}>
      <Typography variant="h2">
        <Explained text="Where a rule converts a spot colour that is named here, its solid becomes this build and its tints their share of it; overprinted ones add up. All others go by the look that the document gives them.">
          Builds of spot colours
        </Explained>
      </Typography>
      <Box sx={{ maxHeight: 330, overflow: "auto" }}>
        {Object.entries(builds).map(([spot, inks]) => (
          <Box
            key={spot}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 1,
              py: 0.25,
              borderBottom: 1,
              borderColor: "divider",
            }}
          >
            <Typography sx={{ flex: 1, minWidth: 0, overflowWrap: "anywhere" }}>{spot}</Typography>
            <BuildField label={`Build of ${spot}`} inks={inks} onRest={(b) => put(spot, b)} />
            <Button aria-label={`Without a build of ${spot}`} onClick={() => put(spot, null)}>
              ×
            </Button>
          </Box>
        ))}
      </Box>
      <Form of={form} label="Another build" row sx={{ gap: 1, mt: 0.5 }}>
        <InputBase
          value={form.draft.name}
          placeholder="Name of a spot colour"
          inputProps={{ "aria-label": "Name of a spot colour" }}
          onChange={(e) => form.put({ name: e.target.value })}
          sx={{ ...FIELD, flex: 1 }}
        />
        <InputBase
          value={form.draft.build}
          placeholder="C 80 Y 20"
          inputProps={{ "aria-label": "Its build" }}
          onChange={(e) => form.put({ build: e.target.value })}
          sx={{ ...FIELD, width: 130 }}
        />
        <Button type="submit" disabled={!fit}>
          Add
        </Button>
      </Form>
      <Typography sx={{ mt: 0.5, "& a": { color: "inherit" } }}>
        <Link to="/spots">Seek builds for a list</Link>
      </Typography>
    </Box>
  );
}

const FIELD = {
  border: 1,
  borderColor: "text.secondary",
  bgcolor: "background.paper",
  px: 0.75,
  fontSize: 13,
} as const;

interface FieldProps {
  label: string;
  inks: Record<string, number>;
  onRest: (inks: Record<string, number>) => void;
}

/** A build as text; what is none goes back to what it was. */
function BuildField({ label, inks, onRest }: FieldProps) {
  const [text, setText] = useState<string | null>(null);
  const rest = () => {
    const found = text === null ? null : typedBuild(text);
    if (found && plain(found) !== plain(inks)) onRest(found);
    setText(null);
  };
  return (
    <InputBase
      value={text ?? plain(inks)}
      inputProps={{ "aria-label": label }}
      onChange={(e) => setText(e.target.value)}
      onBlur={rest}
      onKeyDown={(e) => e.key === "Enter" && rest()}
      sx={{ ...FIELD, width: 170 }}
    />
  );
}
