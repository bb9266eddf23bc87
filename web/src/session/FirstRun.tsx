import { Box, Button, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, ask } from "../api";
import { sessionKey } from "../queries/useSession";
import { Form, FormLine } from "../ui/Form";
import { useDraft } from "../ui/useDraft";

const EMPTY = { house: "", username: "", password: "" };
const lacks = ({ username, password }: typeof EMPTY) => ({
  ...(!username && { username: "A name is needed." }),
  ...(password.length < 10 && { password: "At least 10 characters are needed." }),
});

/** The first page of a new installation: the house's name and the first account. */
export function FirstRun() {
  const client = useQueryClient();
  const make = useMutation({
    mutationFn: (body: typeof EMPTY) => ask(api.POST("/api/first-run", { body })),
    onSuccess: (session) => client.setQueryData(sessionKey, session),
  });
  const first = useDraft(EMPTY, (draft) => make.mutateAsync(draft), lacks);
  return (
    <Box sx={{ height: "100vh", display: "grid", placeItems: "center", overflow: "auto" }}>
      <Form
        of={first}
        label="First account"
        problem={make.error}
        sx={{ display: "flex", flexDirection: "column", gap: 2, width: 420, p: 3 }}
      >
        <Box sx={{ display: "flex", alignItems: "center", gap: 1.2 }}>
          <Box sx={{ width: 19, height: 19, border: "5px solid currentColor" }} />
          <Typography
            component="h1"
            sx={{ fontSize: 30, fontWeight: 780, letterSpacing: "-0.02em" }}
          >
            Plinto
          </Typography>
        </Box>
        <Typography sx={{ fontSize: 15 }}>
          This installation is new. Name the house and make the first account; more are added with{" "}
          <code>plinto user add</code>.
        </Typography>
        <FormLine
          of={first}
          name="house"
          label="Name of the house"
          helperText="As it stands on tickets and lists; may stay empty."
          autoFocus
        />
        <FormLine
          of={first}
          name="username"
          label="Your name for signing in"
          autoComplete="username"
        />
        <FormLine
          of={first}
          name="password"
          label="Password"
          type="password"
          autoComplete="new-password"
          helperText="At least 10 characters."
        />
        <Button type="submit" variant="contained" disabled={make.isPending}>
          Make the account and begin
        </Button>
      </Form>
    </Box>
  );
}
