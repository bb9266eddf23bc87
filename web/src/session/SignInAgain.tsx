import { Box, Button, Dialog, TextField, Typography } from "@mui/material";
import { type FormEvent, useState } from "react";

import { api, ask } from "../api";
import { goOn } from "../api/signedIn";
import { useSession } from "../queries/useSession";

/** The sign-in over the page when a session has ended: what was being done goes on afterwards. */
export function SignInAgain() {
  const session = useSession();
  const known = session.data?.username ?? "";
  const [username, setUsername] = useState(known);
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const signedIn = await ask(api.POST("/api/session", { body: { username, password } }));
      setPassword("");
      setProblem(null);
      // Somebody else at this screen must not go on with what another person did here.
      if (known && signedIn.username !== known) window.location.assign("/");
      else goOn();
    } catch (caught) {
      setProblem(caught instanceof Error ? caught.message : String(caught));
    }
  };
  return (
    <Dialog open aria-labelledby="sign-in-again">
      <Box
        component="form"
        onSubmit={(e) => void submit(e)}
        sx={{ p: 3, width: 360, display: "flex", flexDirection: "column", gap: 1.5 }}
      >
        <Typography id="sign-in-again" variant="h1" component="h2">
          Sign in again
        </Typography>
        <Typography>
          Your session has ended. Nothing is lost: what you did last is sent as soon as you are
          signed in.
        </Typography>
        {problem && (
          <Typography role="alert" sx={{ fontWeight: 650 }}>
            {problem}
          </Typography>
        )}
        <TextField
          label="Name"
          value={username}
          onChange={(e) => setUsername(e.target.value)}
          autoComplete="username"
        />
        <TextField
          label="Password"
          type="password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          autoComplete="current-password"
          autoFocus
        />
        <Button type="submit" variant="contained" disabled={!username || !password}>
          Sign in and go on
        </Button>
      </Box>
    </Dialog>
  );
}
