import { Button, Dialog, Typography } from "@mui/material";
import { useMutation } from "@tanstack/react-query";

import { api, ask } from "../api";
import { goOn } from "../api/signedIn";
import { useSession } from "../queries/useSession";
import { Form, FormLine } from "../ui/Form";
import { useDraft } from "../ui/useDraft";
import { needed } from "./needed";

/** The sign-in over the page when a session has ended: what was being done goes on afterwards. */
export function SignInAgain() {
  const session = useSession();
  const known = session.data?.username ?? "";
  const signIn = useMutation({
    mutationFn: (body: { username: string; password: string }) =>
      ask(api.POST("/api/session", { body })),
    onSuccess: (signedIn) => {
      // Somebody else at this screen must not go on with what another person did here.
      if (known && signedIn.username !== known) window.location.assign("/");
      else goOn();
    },
  });
  const who = useDraft(
    { username: known, password: "" },
    (draft) => signIn.mutateAsync(draft),
    needed,
  );
  return (
    <Dialog open aria-labelledby="sign-in-again">
      <Form
        of={who}
        label="Sign in again"
        problem={signIn.error}
        sx={{ p: 3, width: 360, display: "flex", flexDirection: "column", gap: 1.5 }}
      >
        <Typography id="sign-in-again" variant="h1" component="h2">
          Sign in again
        </Typography>
        <Typography>
          Your session has ended. Nothing is lost: what you did last is sent as soon as you are
          signed in.
        </Typography>
        <FormLine of={who} name="username" label="Name" autoComplete="username" />
        <FormLine
          of={who}
          name="password"
          label="Password"
          type="password"
          autoComplete="current-password"
          autoFocus
        />
        <Button type="submit" variant="contained" disabled={signIn.isPending}>
          Sign in and go on
        </Button>
      </Form>
    </Dialog>
  );
}
