import { Button, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";

import { tablesQuery } from "../queries/jobs";
import { keys } from "../queries/keys";
import { uploadTable } from "../queries/upload";
import { Choice, Section } from "../ui/controls";
import { FileInput } from "../ui/FileInput";
import type { StageProps } from "./StageRail";

const WORDS = {
  before: {
    title: "Colour table before",
    help: "A .cube table on the artwork's RGB numbers, before anything else.",
  },
  after: {
    title: "Colour table after",
    help: "A .cube table on the RGB numbers of the result, as film and photographic processes want it.",
  },
} as const;

/** A .cube table before or after the conversion. */
export function ColourTables({ control, side }: StageProps & { side: "before" | "after" }) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const tables = useQuery(tablesQuery);
  const chosen = control.recipe[side];
  const upload = useMutation({
    mutationFn: uploadTable,
    onSuccess: async (table) => {
      await client.invalidateQueries({ queryKey: keys.tables });
      control.commit({ [side]: table.sha256 });
    },
  });
  const options: Record<string, string> = {
    "": "None",
    ...Object.fromEntries(
      tables.data?.map((t) => [t.sha256, `${t.name}, ${t.dimensions}D, ${t.size}`]) ?? [],
    ),
  };
  const { title, help } = WORDS[side];
  return (
    <Section
      title={title}
      fact={chosen ? (options[chosen] ?? "one table") : "none"}
      open={chosen !== null}
    >
      <Choice
        label="Table"
        value={chosen ?? ""}
        options={options}
        help={help}
        onChange={(value) => control.commit({ [side]: value || null })}
      />
      <FileInput
        ref={input}
        label={`${title} file`}
        accept=".cube"
        onFiles={([file]) => {
          if (file) upload.mutate(file);
        }}
      />
      <Button sx={{ mt: 0.75 }} disabled={upload.isPending} onClick={() => input.current?.click()}>
        Upload a .cube file…
      </Button>
      {upload.error && (
        <Typography role="alert" sx={{ fontWeight: 650, mt: 0.5 }}>
          {upload.error.message}
        </Typography>
      )}
    </Section>
  );
}
