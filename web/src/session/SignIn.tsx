import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, ask, type Session } from "../api";
import { sessionKey } from "../queries/useSession";
import { Notice } from "../ui/Notice";

/** The first page; where the demo is set up, its account is shown and one click enters. */
export function SignIn({ session }: { session: Session }) {
  const client = useQueryClient();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: (body: { username: string; password: string }) =>
      ask(api.POST("/api/session", { body })),
    onSuccess: (data) => client.setQueryData(sessionKey, data),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ username, password });
  };
  const demo = session.demo;
  return (
    <Box sx={{ height: "100vh", display: "grid", gridTemplateColumns: "minmax(380px, 2fr) 3fr" }}>
      <Box
        component="form"
        onSubmit={submit}
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
        {signIn.error && <Notice problem={signIn.error} />}
        <TextField
          label="Name"
          value={username}
          onChange={(e) => setUsername(e.target.value)}
          autoComplete="username"
          autoFocus
        />
        <TextField
          label="Password"
          type="password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          autoComplete="current-password"
        />
        <Button
          type="submit"
          variant="contained"
          disabled={signIn.isPending || !username || !password}
        >
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
      </Box>
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
