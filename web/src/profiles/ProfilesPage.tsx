import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type DragEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";

import type { Profile } from "../api";
import { Swatch } from "../plots/Swatch";
import { conditionsQuery, profilesQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { receiveProfiles } from "../queries/upload";
import { Shell } from "../shell";
import { Explained, Notice, ownProfile, Pick } from "../ui";
import { library } from "../ui/cells";
import { FileInput } from "../ui/FileInput";
import { bytes, number } from "../ui/numbers";

const ORIGINS: Record<string, string> = {
  standard: "standard space",
  shipped: "with Plinto",
  built: "built here",
  uploaded: "received",
  edited: "changed copy",
  saved: "from a colour path",
  embedded: "from artwork",
};
const FILTERS = { all: "all", own: "your own", common: "with Plinto" };
type Filter = keyof typeof FILTERS;

/** Whether a profile answers to what was typed. */
export const answers = (p: Profile, typed: string) => {
  const text = [
    p.description,
    p.colour_space,
    p.device_class,
    ORIGINS[p.origin] ?? "",
    p.facts?.maker ?? "",
    p.facts?.created ?? "",
  ]
    .join(" ")
    .toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
};

/** The profile library: received in any wrapping, searched, examined. */
export function ProfilesPage() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const profiles = useQuery(profilesQuery);
  const conditions = useQuery(conditionsQuery);
  const [typed, setTyped] = useState("");
  const [filter, setFilter] = useState<Filter>("all");
  const [over, setOver] = useState(false);
  const receive = useMutation({
    mutationFn: async (files: File[]) => {
      const found: Profile[] = [];
      const refused: string[] = [];
      for (const file of files) {
        try {
          found.push(...(await receiveProfiles(file)));
        } catch (error) {
          refused.push(`${file.name}: ${error instanceof Error ? error.message : String(error)}`);
        }
      }
      return { found, refused };
    },
    onSettled: () => client.invalidateQueries({ queryKey: keys.profiles, exact: true }),
  });
  const take = (files: File[]) => {
    if (files.length) receive.mutate(files);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    take([...event.dataTransfer.files]);
  };
  const rows = (profiles.data ?? [])
    .filter((p) => answers(p, typed) && (filter === "all" || ownProfile(p) === (filter === "own")))
    .sort((a, b) => Number(ownProfile(b)) - Number(ownProfile(a)));
  const twin = (p: Profile) =>
    profiles.data?.find(
      (other) => other.id < p.id && other.facts?.colours === p.facts?.colours && p.facts !== null,
    )?.description;
  const usedBy = (p: Profile) =>
    (conditions.data ?? [])
      .filter((c) => c.profile.id === p.id)
      .map((c) => c.name)
      .join(", ");
  return (
    <Shell
      detail={
        profiles.data ? `${profiles.data.filter((p) => ownProfile(p)).length} of your own` : ""
      }
      actions={
        <Button
          variant="contained"
          disabled={receive.isPending}
          onClick={() => input.current?.click()}
        >
          Add profiles…
        </Button>
      }
    >
      <Box
        sx={{
          height: "100%",
          overflow: "auto",
          p: 2,
          outline: over ? "3px dashed" : "none",
          outlineOffset: -8,
        }}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
      >
        <FileInput
          ref={input}
          label="Files with profiles"
          accept=".icc,.icm,.zip,.tif,.tiff,.png,.jpg,.jpeg,.pdf"
          multiple
          onFiles={take}
        />
        {receive.isPending && <Typography role="status">Looking for profiles…</Typography>}
        {receive.data && (
          <Box
            role="status"
            aria-label="What was added"
            sx={{
              border: 2,
              borderColor: "text.primary",
              bgcolor: "background.paper",
              p: 1.25,
              mb: 1.5,
            }}
          >
            {receive.data.found.length > 0 && (
              <Typography>
                {receive.data.found.length === 1
                  ? "One profile is"
                  : `${receive.data.found.length} profiles are`}{" "}
                in the library: {receive.data.found.map((p) => p.description).join(", ")}.
              </Typography>
            )}
            {receive.data.refused.map((r) => (
              <Typography key={r} sx={{ fontWeight: 650 }}>
                {r}
              </Typography>
            ))}
            <Button sx={{ mt: 0.75 }} onClick={() => receive.reset()}>
              Close
            </Button>
          </Box>
        )}
        {profiles.error && (
          <Notice problem={profiles.error} onRetry={() => void profiles.refetch()} />
        )}
        <Box sx={{ display: "flex", alignItems: "center", gap: 2, mb: 1 }}>
          <TextField
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            placeholder="Search by name, inks, class, maker, date"
            slotProps={{ htmlInput: { "aria-label": "Search profiles" } }}
            sx={{ maxWidth: 420 }}
          />
          <Pick
            label="Which profiles"
            width={140}
            value={filter}
            options={FILTERS}
            onChange={setFilter}
          />
          <Typography color="text.secondary">
            Drop profiles, archives, pictures or PDFs with profiles in them anywhere here.
          </Typography>
        </Box>
        {profiles.isPending && <Typography color="text.secondary">Reading the library…</Typography>}
        {profiles.data && rows.length === 0 && (
          <Typography sx={{ p: 2 }} color="text.secondary">
            No profile answers to that.
          </Typography>
        )}
        {rows.length > 0 && (
          <Box component="table" aria-label="Profiles" sx={library}>
            <thead>
              <tr>
                <th>Name</th>
                <th>Class</th>
                <th>Colours</th>
                <th>
                  <Explained of="paper_white">White</Explained>
                </th>
                <th>
                  <Explained text="Version of the ICC specification.">Version</Explained>
                </th>
                <th>Maker</th>
                <th>
                  <Explained text="Date in the profile.">Made</Explained>
                </th>
                <th>
                  <Explained of="file_size">Size</Explained>
                </th>
                <th>Came</th>
                <th>Condition</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((p) => (
                <Box
                  component="tr"
                  key={p.id}
                  onClick={() => void navigate(`/profiles/${p.id}`)}
                  sx={{ cursor: "pointer", "&:hover": { bgcolor: "background.paper" } }}
                >
                  <td>
                    <Box
                      component="button"
                      type="button"
                      onClick={() => void navigate(`/profiles/${p.id}`)}
                      sx={{
                        all: "unset",
                        cursor: "pointer",
                        fontWeight: 700,
                        overflowWrap: "anywhere",
                        "&:focus-visible": { outline: "2px solid", outlineOffset: 2 },
                      }}
                    >
                      {p.description}
                    </Box>
                    {twin(p) && (
                      <Typography variant="body2" color="text.secondary">
                        prints the same as {twin(p)}
                      </Typography>
                    )}
                  </td>
                  <td>{p.device_class}</td>
                  <td>{p.colour_space}</td>
                  <td data-explained="paper_white" style={{ whiteSpace: "nowrap" }}>
                    {p.facts && (
                      <>
                        <Swatch lab={p.facts.white} />
                        {number(p.facts.white[0] ?? 0)}
                      </>
                    )}
                  </td>
                  <td data-explained="">{p.facts?.version}</td>
                  <td>{p.facts?.maker || "–"}</td>
                  <td data-explained="">{p.facts?.created || "–"}</td>
                  <td data-explained="file_size">{p.facts && bytes(p.facts.size)}</td>
                  <td>{ORIGINS[p.origin] ?? p.origin}</td>
                  <td>{usedBy(p) || "–"}</td>
                </Box>
              ))}
            </tbody>
          </Box>
        )}
      </Box>
    </Shell>
  );
}
