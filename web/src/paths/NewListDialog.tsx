import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import { api, ask, type SwatchList } from "../api";
import { profilesQuery } from "../queries/conditions";
import { jobsQuery } from "../queries/jobs";
import { keys } from "../queries/keys";
import { receiveSwatches } from "../queries/upload";
import { Choice, Notice, NumberField, profileGroups, Sheet, TextLine, useDraft } from "../ui";
import { FileInput } from "../ui/FileInput";

const WAYS = {
  typed: "Typed or pasted colours",
  file: "A file: CSV, CGATS text, CxF3, a profile’s measurements or names",
  neutrals: "Neutrals from white to black",
  solids: "The solids of an ink set",
  chart: "A device’s chart",
  extremes: "The extreme colours of a profile",
  dominant: "The dominant colours of a picture",
} as const;
type Way = keyof typeof WAYS;

const SPACES = {
  Lab: "L* a* b*",
  LCh: "L* C* h",
  RGB: "R G B, 0 to 255",
  CMYK: "C M Y K, percent",
  GRAY: "Grey, 0 to 255",
  XYZ: "X Y Z",
} as const;

const COUNTS: Partial<Record<Way, [label: string, first: number, most: number, help: string]>> = {
  neutrals: ["Steps", 21, 1001, "Evenly in L*, white and black among them."],
  chart: ["Steps a channel", 6, 21, "Every combination of them: six steps of four inks are 1,296."],
  extremes: [
    "Hues",
    24,
    120,
    "The most chromatic colour at each, then the lightest and darkest grey.",
  ],
  dominant: ["Colours", 8, 64, "Each is the mean of its like, by their share of the picture."],
};

interface Given {
  [part: string]: unknown;
  way: Way;
  text: string;
  space: keyof typeof SPACES;
  name: string;
  /** The profile, or the job whose picture it is. */
  whose: string;
  count: number | null;
}
const START: Given = { way: "typed", text: "", space: "Lab", name: "", whose: "", count: null };
const askedOf = (way: Way, count: number | null) => count ?? COUNTS[way]?.[1];

interface Props {
  onClose: () => void;
  onMade: (list: SwatchList) => void;
}

/** Ways to a new list of swatches; what cannot be read is said and nothing typed is lost. */
export function NewListDialog({ onClose, onMade }: Props) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const profiles = useQuery(profilesQuery);
  const jobs = useQuery(jobsQuery);
  const made = async (lists: SwatchList[]) => {
    await client.invalidateQueries({ queryKey: keys.swatches });
    const [one] = lists;
    if (one) onMade(one);
  };
  const make = useMutation({
    mutationFn: async ({ way, text, space, name, whose, count }: Given): Promise<SwatchList[]> => {
      const asked = askedOf(way, count);
      if (way === "typed")
        return [await ask(api.POST("/api/swatch-lists", { body: { name, text, space } as never }))];
      if (way === "dominant")
        return [
          await ask(
            api.POST("/api/swatch-lists/dominant", {
              body: { job: Number(whose), count: asked, name } as never,
            }),
          ),
        ];
      return [
        await ask(
          api.POST("/api/swatch-lists/ready", {
            body: {
              kind: way,
              name,
              ...(way !== "neutrals" && { profile: whose }),
              ...(asked !== undefined && { count: asked }),
            } as never,
          }),
        ),
      ];
    },
    onSuccess: made,
  });
  const take = useMutation({ mutationFn: receiveSwatches, onSuccess: made });
  const form = useDraft<Given>(START, (given) => make.mutateAsync(given));
  const { way, text, space, name, whose, count } = form.draft;
  const counts = COUNTS[way];
  const inks = way === "solids";
  const ofProfile = profileGroups(
    (profiles.data ?? [])
      .filter((p) => ["output", "display", "input", "colour space"].includes(p.device_class))
      .filter((p) => !inks || !["RGB", "GRAY", "Lab", "XYZ"].includes(p.colour_space)),
  );
  const ofJob = [["Jobs", (jobs.data ?? []).map((j) => [String(j.id), j.name] as const)]] as const;
  const needs = way === "solids" || way === "chart" || way === "extremes" || way === "dominant";
  const ready = way === "typed" ? text.trim() !== "" : !needs || whose !== "";
  const problem = make.error ?? take.error;
  return (
    <Sheet
      title="A new list of swatches"
      onClose={onClose}
      form={form}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          {way !== "file" && (
            <Button type="submit" variant="contained" disabled={!ready || make.isPending}>
              {make.isPending ? "Making…" : "Make the list"}
            </Button>
          )}
        </>
      }
    >
      {problem && (
        <Notice
          problem={problem}
          onDismiss={() => {
            make.reset();
            take.reset();
          }}
        />
      )}
      <Choice
        label="Where the colours come from"
        value={way}
        options={WAYS}
        onChange={(next) => {
          form.put({ way: next, whose: "", count: null });
          make.reset();
          take.reset();
        }}
      />
      {way === "typed" && (
        <>
          <Choice
            label="What the numbers are"
            help="Where the first row names the columns, it decides."
            value={space}
            options={SPACES}
            onChange={(next) => form.put({ space: next })}
          />
          <TextLine
            label="A row a colour; a name may stand before the numbers"
            lines={6}
            value={text}
            placeholder={"brick 50 45 35\nleaf 45 -40 35"}
            onChange={(next) => form.put({ text: next })}
          />
        </>
      )}
      {way === "file" && (
        <Box sx={{ mt: 1.5 }}>
          <FileInput
            ref={input}
            label="File of swatches"
            accept=".csv,.txt,.cxf,.xml,.icc,.icm"
            onFiles={([file]) => file && take.mutate(file)}
          />
          <Button onClick={() => input.current?.click()} disabled={take.isPending}>
            {take.isPending ? "Reading…" : "Choose a file…"}
          </Button>
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
            A file with device values and measured colours becomes two lists.
          </Typography>
        </Box>
      )}
      {needs && (
        <Choice
          label={way === "dominant" ? "Of which picture" : "Of which profile"}
          value={whose}
          options={{ "": "Choose…" }}
          groups={way === "dominant" ? ofJob : ofProfile}
          onChange={(next) => form.put({ whose: next })}
        />
      )}
      {counts && (
        <NumberField
          label={counts[0]}
          help={counts[3]}
          value={askedOf(way, count) ?? counts[1]}
          unit=""
          min={2}
          max={counts[2]}
          onRest={(value) => value !== null && form.put({ count: Math.round(value) })}
        />
      )}
      {way !== "file" && (
        <TextLine
          label="Name"
          value={name}
          placeholder="by what it holds"
          onChange={(next) => form.put({ name: next })}
        />
      )}
    </Sheet>
  );
}
