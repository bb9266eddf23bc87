import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, ask, type Session } from "../api";
import { sessionKey } from "../queries/useSession";
import { Form, FormLine } from "../ui/Form";
import { useDraft } from "../ui/useDraft";
import { needed } from "./needed";

/** The first page; where the demo is set up, its account is shown and one click enters. */
export function SignIn({ session }: { session: Session }) {
  const client = useQueryClient();
  const signIn = useMutation({
    mutationFn: (body: { username: string; password: string }) =>
      ask(api.POST("/api/session", { body })),
    onSuccess: (data) => client.setQueryData(sessionKey, data),
  });
  const who = useDraft(
    { username: "", password: "" },
    (draft) => signIn.mutateAsync(draft),
    needed,
  );
  const demo = session.demo;
  return (
    <Box sx={{ height: "100vh", display: "grid", gridTemplateColumns: "minmax(380px, 2fr) 3fr" }}>
      <Form
        of={who}
        label="Sign in"
        problem={signIn.error}
        sx={{
          display: "flex",
          flexDirection: "column",
          justifyContent: "center",
          gap: 2,
          px: 7,
          maxWidth: 480,
        }}
      >
        <Box sx={{ display: "flex", alignItems: "center", gap: 1.2, mb: 1 }}>
          <Box sx={{ width: 19, height: 19, border: "5px solid currentColor" }} />
          <Typography sx={{ fontSize: 30, fontWeight: 780, letterSpacing: "-0.02em" }}>
            Plinto
          </Typography>
        </Box>
        <Typography sx={{ fontSize: 15, maxWidth: 330 }}>
          From RGB artwork to the inks of a press, with every figure in sight.
        </Typography>
        <FormLine of={who} name="username" label="Name" autoComplete="username" autoFocus />
        <FormLine
          of={who}
          name="password"
          label="Password"
          type="password"
          autoComplete="current-password"
        />
        <Button type="submit" variant="contained" disabled={signIn.isPending}>
          Sign in
        </Button>
        {demo && (
          <Box sx={{ borderTop: 1, borderColor: "divider", pt: 2, mt: 1 }}>
            <Typography sx={{ mb: 1 }}>
              This is a demo: name <b>{demo.username}</b>, password <b>{demo.password}</b>.
            </Typography>
            <Button onClick={() => signIn.mutate(demo)} disabled={signIn.isPending}>
              Enter the demo
            </Button>
          </Box>
        )}
      </Form>
      <Box
        aria-hidden
        sx={{
          bgcolor: "#777777",
          display: "grid",
          gridTemplateColumns: "repeat(11, 1fr)",
          alignItems: "end",
        }}
      >
        {Array.from({ length: 11 }, (_, i) => (
          <Box
            key={i}
            sx={{ height: `${20 + i * 7.2}%`, bgcolor: `rgb(${i * 25.5},${i * 25.5},${i * 25.5})` }}
          />
        ))}
      </Box>
    </Box>
  );
}
