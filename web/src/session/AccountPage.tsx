import { Box, Button, Link, Typography } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, ask } from "../api";
import { Shell } from "../shell";
import { Form, FormEnd, FormLine, Notice, Sentence, useDraft } from "../ui";

const KEY = ["token"];
const when = (time: string | null) => new Date(time ?? "").toLocaleString();

const LEAST = 10;

/** One's password, changed by who knows the present one. */
function Password() {
  const change = useMutation({
    mutationFn: ({ present, password }: { present: string; password: string }) =>
      ask(api.POST("/api/password", { body: { present, password } })),
  });
  const form = useDraft(
    { present: "", password: "", again: "" },
    async (draft) => {
      await change.mutateAsync(draft);
      form.reset({ present: "", password: "", again: "" });
    },
    ({ present, password, again }) => ({
      ...(present === "" && { present: "Type the present one." }),
      ...(password.length < LEAST && { password: `At least ${LEAST} characters.` }),
      ...(again !== password && { again: "It differs from the one above." }),
    }),
  );
  const lines = [
    ["present", "Present password", "current-password"],
    ["password", "New password", "new-password"],
    ["again", "New password again", "new-password"],
  ] as const;
  return (
    <Form
      of={form}
      label="Change the password"
      problem={change.error}
      sx={{ maxWidth: 360, mt: 4, display: "grid", gap: 1.5 }}
    >
      <Typography variant="h1" component="h2">
        Password
      </Typography>
      {lines.map(([name, label, autoComplete]) => (
        <FormLine
          key={name}
          of={form}
          name={name}
          label={label}
          type="password"
          autoComplete={autoComplete}
          most={200}
        />
      ))}
      <FormEnd keep="Change it" disabled={change.isPending} />
      {change.isSuccess && !form.changed && (
        <Typography role="status">It is changed; other browsers are signed out.</Typography>
      )}
    </Form>
  );
}

/** The token that scripts sign in with: made, shown once, made void. */
export function AccountPage() {
  const client = useQueryClient();
  const token = useQuery({ queryKey: KEY, queryFn: () => ask(api.GET("/api/token")) });
  const refresh = () => client.invalidateQueries({ queryKey: KEY });
  const make = useMutation({
    mutationFn: () => ask(api.POST("/api/token", { body: { days: 365 } })),
    onSuccess: refresh,
  });
  const drop = useMutation({
    mutationFn: () => ask(api.DELETE("/api/token")),
    onSuccess: async () => {
      make.reset();
      await refresh();
    },
  });
  const key = make.data?.key;
  const error = token.error ?? make.error ?? drop.error;
  return (
    <Shell detail="Scripts and schedulers sign in with a token.">
      {error && (
        <Notice
          problem={error}
          onDismiss={() => {
            make.reset();
            drop.reset();
          }}
        />
      )}
      <Box sx={{ p: 3, maxWidth: 720 }}>
        <Typography variant="h1" component="h2" sx={{ mb: 1 }}>
          Access for scripts
        </Typography>
        <Typography>
          {token.data?.exists
            ? `A token is there since ${when(token.data.created)}; it ends ${when(token.data.ends)} and was ${token.data.used ? `used last ${when(token.data.used)}` : "never used"}.`
            : "No token is in use; scripts cannot sign in."}
        </Typography>
        {key && (
          <Box
            role="status"
            sx={{
              border: 2,
              borderColor: "text.primary",
              bgcolor: "background.paper",
              p: 1.5,
              my: 1.5,
            }}
          >
            <Typography
              sx={{ fontFamily: "monospace", fontSize: 14, overflowWrap: "anywhere" }}
              data-testid="token"
            >
              {key}
            </Typography>
            <Typography variant="body2" sx={{ mt: 0.5 }}>
              It is shown this once. Keep it like a password.
            </Typography>
          </Box>
        )}
        <Box sx={{ display: "flex", gap: 1, my: 1.5 }}>
          <Button variant="contained" onClick={() => make.mutate()}>
            {token.data?.exists ? "Make a new token; the old one is void" : "Make a token"}
          </Button>
          {token.data?.exists && <Button onClick={() => drop.mutate()}>Make it void</Button>}
        </Box>
        <Sentence>
          A script sends it with every request, in the header “Authorization: Token …”. All that the
          interface can do is described at /api/schema.
        </Sentence>
        <Password />
        <Typography variant="body2" sx={{ mt: 3 }}>
          <Link href="/notices.txt" color="inherit">
            Fonts and libraries that Plinto is made with, and their licences
          </Link>
        </Typography>
      </Box>
    </Shell>
  );
}
