import { Box, Button, InputBase, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { api, ask, type InkRules } from "../../api";
import { save } from "../../plots/save";
import { inkRulesQuery } from "../../queries/jobs";
import { keys } from "../../queries/keys";
import { RemoveButton } from "../../ui";
import { Choice, Section } from "../../ui/controls";
import { FileInput, readJson } from "../../ui/FileInput";

/** Ink rules under a name: kept, taken, deleted. */
export function NamedRules({
  rules,
  onTake,
}: {
  rules: InkRules;
  onTake: (rules: InkRules) => void;
}) {
  const client = useQueryClient();
  const sets = useQuery(inkRulesQuery);
  const [name, setName] = useState(rules.name);
  const refresh = () => client.invalidateQueries({ queryKey: keys.inkRules });
  const keep = useMutation({
    mutationFn: () => ask(api.POST("/api/ink-rules", { body: { ...rules, name: name.trim() } })),
    onSuccess: async (made) => {
      await refresh();
      onTake(made.rules);
    },
  });
  const input = useRef<HTMLInputElement>(null);
  const [unreadable, setUnreadable] = useState("");
  const read = async (file: File) => {
    setUnreadable("");
    try {
      const given = await readJson<InkRules>(file, "ink rules");
      // The server says what is wrong with rules that are not usable; they are kept and taken in one go.
      const made = await ask(
        api.POST("/api/ink-rules", {
          body: { ...given, name: given.name || file.name.replace(/\.json$/i, "") },
        }),
      );
      await refresh();
      setName(made.name);
      onTake(made.rules);
    } catch (caught) {
      setUnreadable(caught instanceof Error ? caught.message : String(caught));
    }
  };
  const chosen = sets.data?.find((s) => s.name === rules.name);
  const options: Record<string, string> = {
    "": "Not kept under a name",
    ...Object.fromEntries(sets.data?.map((s) => [String(s.id), s.name]) ?? []),
  };
  return (
    <Section title="Named ink rules" fact={chosen?.name ?? "none"}>
      <Choice
        label="Take"
        value={chosen ? String(chosen.id) : ""}
        options={options}
        onChange={(id) => {
          const set = sets.data?.find((s) => String(s.id) === id);
          if (set) {
            setName(set.name);
            onTake(set.rules);
          }
        }}
      />
      <Box sx={{ display: "flex", gap: 0.75, mt: 0.75 }}>
        <InputBase
          value={name}
          placeholder="Name"
          inputProps={{ "aria-label": "Name of the ink rules", maxLength: 200 }}
          onChange={(e) => setName(e.target.value)}
          sx={{
            flex: 1,
            fontSize: 13,
            border: 1,
            borderColor: "text.secondary",
            bgcolor: "background.paper",
            "& input": { px: 0.75, py: 0.25 },
          }}
        />
        <Button disabled={!name.trim() || keep.isPending} onClick={() => keep.mutate()}>
          Keep
        </Button>
        {chosen && (
          <RemoveButton
            label="Remove"
            name={chosen.name}
            remove={() =>
              ask(api.DELETE("/api/ink-rules/{id}", { params: { path: { id: chosen.id } } }))
            }
            restore={() =>
              ask(api.POST("/api/ink-rules/{id}/restore", { params: { path: { id: chosen.id } } }))
            }
            onDone={refresh}
          />
        )}
      </Box>
      <FileInput
        ref={input}
        label="File of ink rules"
        accept=".json"
        onFiles={([file]) => {
          if (file) void read(file);
        }}
      />
      <Box sx={{ display: "flex", gap: 0.75, mt: 0.75 }}>
        <Button
          onClick={() =>
            save(
              `${(rules.name || "ink rules").replace(/\W+/g, "-")}.json`,
              JSON.stringify(rules, null, 2) + "\n",
              "application/json",
            )
          }
        >
          As a file
        </Button>
        <Button onClick={() => input.current?.click()}>From a file…</Button>
      </Box>
      {unreadable && (
        <Typography role="alert" sx={{ fontWeight: 650, mt: 0.5 }}>
          {unreadable}
        </Typography>
      )}
      {keep.error && (
        <Typography role="alert" sx={{ fontWeight: 650, mt: 0.5 }}>
          {keep.error.message}
        </Typography>
      )}
    </Section>
  );
}
