import { Box, Button, ButtonBase, Typography } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { api, ask, type InkChannel } from "../api";
import { NewConditionDialog } from "../conditions";
import { InkContext } from "../plots";
import { profilesQuery } from "../queries/conditions";
import { keys } from "../queries/keys";
import { aimAsked, aimsQuery, examinationQuery } from "../queries/profiles";
import { Shell } from "../shell";
import { Notice, ownProfile, Pick, RemoveButton } from "../ui";
import { NumberField } from "../ui/controls";
import { AimPick } from "./AimPick";
import { CopyPanel } from "./CopyPanel";
import { GivesBack } from "./GivesBack";
import { Greys } from "./Greys";
import { Holds } from "./Holds";
import { Prints } from "./Prints";
import { SideBySide } from "./SideBySide";
import { Wrong } from "./Wrong";

const PARTS = {
  prints: "What it prints",
  greys: "How it makes greys",
  back: "What it gives back",
  wrong: "What is wrong with it",
  holds: "What it holds",
} as const;
type Part = keyof typeof PARTS;

const NO_INKS: InkChannel[] = [];

/** The examination of one profile, cut by what one asks of it. */
export function ProfilePage() {
  const { profileId, part: named } = useParams();
  const id = Number(profileId);
  const part: Part = named && named in PARTS ? (named as Part) : "prints";
  const navigate = useNavigate();
  const client = useQueryClient();
  const profiles = useQuery(profilesQuery);
  const profile = profiles.data?.find((p) => p.id === id);
  const [tac, setTac] = useState<number | null>(null);
  const [aim, setAim] = useState("");
  const [beside, setBeside] = useState<string[]>([]);
  const [copying, setCopying] = useState(false);
  const [making, setMaking] = useState(false);
  const aims = useQuery(aimsQuery);
  const kept = aims.data?.find((a) => `kept:${a.id}` === aim);
  const report = useQuery({
    ...examinationQuery(id, tac, aim, kept?.revision),
    enabled: profile !== undefined,
  });
  if (profiles.data && !profile)
    return (
      <Shell title="Profile">
        <Typography sx={{ p: 3 }}>This profile is not in your library.</Typography>
      </Shell>
    );
  const prints = profile?.facts?.examined ?? false;
  const others = (profiles.data ?? []).filter((p) => p.id !== id && p.facts?.examined);
  const path = { params: { path: { id } } };
  const asked = { ...(tac !== null && { tac }), ...aimAsked(aim) };
  const query = new URLSearchParams(
    Object.entries(asked).map(([name, value]) => [name, String(value)]),
  ).toString();
  const shownBeside = beside.flatMap((b) => others.filter((p) => String(p.id) === b));
  const wrong = report.data?.findings.filter((f) => f.severity !== "note").length;
  const besides = (
    <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: 1, mb: 1 }}>
      <Typography>Beside it</Typography>
      {shownBeside.map((p) => (
        <Button
          key={p.id}
          aria-label={`Without ${p.description}`}
          onClick={() => setBeside(beside.filter((b) => b !== String(p.id)))}
        >
          {p.description} ×
        </Button>
      ))}
      {beside.length < 3 && (
        <Pick
          label="Another profile beside it"
          width={230}
          value=""
          options={{
            "": "another profile…",
            ...Object.fromEntries(
              others
                .filter((p) => !beside.includes(String(p.id)))
                .map((p) => [String(p.id), p.description]),
            ),
          }}
          onChange={(v) => v && setBeside([...beside, v])}
        />
      )}
    </Box>
  );
  return (
    <InkContext value={profile?.inks?.channels ?? NO_INKS}>
      <Shell title={profile?.description ?? "Profile"}>
        <Box sx={{ display: "grid", gridTemplateColumns: "200px minmax(0, 1fr)", height: "100%" }}>
          <Box
            component="nav"
            aria-label="Parts of the examination"
            sx={{ borderRight: 1, borderColor: "divider", py: 1 }}
          >
            <ButtonBase
              onClick={() => void navigate("/profiles")}
              sx={{ px: 2, py: 0.75, fontSize: 13, textDecoration: "underline" }}
            >
              All profiles
            </ButtonBase>
            {(Object.entries(PARTS) as [Part, string][]).map(([key, label]) => (
              <ButtonBase
                key={key}
                aria-current={key === part ? "page" : undefined}
                onClick={() => void navigate(`/profiles/${id}/${key}`, { replace: true })}
                sx={{
                  display: "block",
                  width: "100%",
                  textAlign: "left",
                  px: 2,
                  py: 0.9,
                  fontSize: 13,
                  fontWeight: key === part ? 700 : 450,
                  ...(key === part && {
                    bgcolor: "background.paper",
                    boxShadow: (t) => `inset 4px 0 0 ${t.palette.text.primary}`,
                  }),
                }}
              >
                {label}
                {key === "wrong" && wrong ? ` (${wrong})` : ""}
              </ButtonBase>
            ))}
          </Box>
          <Box sx={{ overflow: "auto", p: 2, minWidth: 0 }}>
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mb: 1.5 }}>
              <Typography variant="h1" component="h2" sx={{ flex: "1 1 200px" }}>
                {PARTS[part]}
              </Typography>
              {profile?.parts.includes("destination") && (
                <Button onClick={() => setMaking(true)}>Make a condition…</Button>
              )}
              <Button onClick={() => setCopying(!copying)}>A changed copy…</Button>
              {profile && prints && (
                <Button
                  component={Link}
                  to={`/gamuts?of=profile:${profile.sha256}&of=profile:srgb`}
                >
                  Gamut
                </Button>
              )}
              {profile && prints && (
                <Button
                  component={Link}
                  to={`/questions?${new URLSearchParams({
                    ask: shownBeside.length ? "alike" : "greys",
                    ...Object.fromEntries(
                      ["profile", "press", "first", "destination"].map((p) => [p, String(id)]),
                    ),
                    ...(beside[0] && { second: beside[0], proofer: beside[0] }),
                  })}`}
                >
                  {shownBeside.length ? "Ask about these" : "Ask about it"}
                </Button>
              )}
              <Button component="a" href={`/api/profiles/${id}/file`} download>
                As a file
              </Button>
              <Button
                component="a"
                href={`/api/profiles/${id}/examination${query ? `?${query}` : ""}`}
                download={`examination-${id}.json`}
              >
                Report as JSON
              </Button>
              <Button
                component="a"
                href={`/api/profiles/${id}/examination.pdf${query ? `?${query}` : ""}`}
                download
              >
                Report as PDF
              </Button>
              {profile && ownProfile(profile) && (
                <RemoveButton
                  label="Take out"
                  name={profile.description}
                  uses={() => ask(api.GET("/api/profiles/{id}/uses", path))}
                  remove={() => ask(api.DELETE("/api/profiles/{id}", path))}
                  restore={() => ask(api.POST("/api/profiles/{id}/restore", path))}
                  onDone={async () => {
                    await client.invalidateQueries({ queryKey: keys.profiles, exact: true });
                    void navigate("/profiles");
                  }}
                  kept="It cannot be taken out while they use it."
                />
              )}
            </Box>
            {profile && (
              <NewConditionDialog
                open={making}
                from={profile}
                onMade={(made) => void navigate(`/conditions/${made.id}`)}
                onClose={() => setMaking(false)}
              />
            )}
            {copying && profile && (
              <CopyPanel key={profile.id} profile={profile} onClose={() => setCopying(false)} />
            )}
            {(part === "prints" || part === "wrong") && prints && (
              <Box
                sx={{
                  display: "flex",
                  flexWrap: "wrap",
                  alignItems: "center",
                  columnGap: 3,
                  mb: 1.5,
                }}
              >
                {profile?.inks && (
                  <Box sx={{ width: 280 }}>
                    <NumberField
                      label="Total that was asked for"
                      help="Tables that reach more are a finding. Empty: not judged."
                      value={tac}
                      unit="%"
                      min={50}
                      max={800}
                      empty="any"
                      onRest={setTac}
                    />
                  </Box>
                )}
                <AimPick
                  value={aim}
                  profiles={others.filter((p) => p.parts.includes("destination"))}
                  onChange={setAim}
                />
              </Box>
            )}
            {part === "prints" && prints && besides}
            {part === "prints" && profile && shownBeside.length > 0 && (
              <SideBySide profiles={[profile, ...shownBeside]} />
            )}
            {report.error && (
              <Notice problem={report.error} onRetry={() => void report.refetch()} />
            )}
            {report.isPending && profile && part !== "greys" && (
              <Typography color="text.secondary">Examining…</Typography>
            )}
            {part === "greys" &&
              profile &&
              (prints ? (
                <>
                  {besides}
                  <Greys profiles={[profile, ...shownBeside]} />
                </>
              ) : (
                <Typography>
                  It makes no greys: it leads only one way, or joins other profiles.
                </Typography>
              ))}
            {report.data && profile && (
              <>
                {part === "prints" && <Prints found={report.data} name={profile.description} />}
                {part === "back" && <GivesBack found={report.data} profile={id} />}
                {part === "wrong" && <Wrong found={report.data} />}
                {part === "holds" && <Holds profile={profile} found={report.data} />}
              </>
            )}
          </Box>
        </Box>
      </Shell>
    </InkContext>
  );
}
