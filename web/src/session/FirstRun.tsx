import { Box, Button, TextField, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, ask } from "../api";
import { sessionKey } from "../queries/useSession";
import { Notice } from "../ui/Notice";

/** The first page of a new installation: the house's name and the first account. */
export function FirstRun() {
  const client = useQueryClient();
  const [draft, setDraft] = useState({ house: "", username: "", password: "" });
  const make = useMutation({
    mutationFn: () => ask(api.POST("/api/first-run", { body: draft })),
    onSuccess: (session) => client.setQueryData(sessionKey, session),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  const field = (name: keyof typeof draft, label: string, more: Record<string, unknown> = {}) => (
    <TextField
      label={label}
      value={draft[name]}
      onChange={(e) => setDraft({ ...draft, [name]: e.target.value })}
      {...more}
    />
  );
  return (
    <Box sx={{ height: "100vh", display: "grid", placeItems: "center", overflow: "auto" }}>
      <Box
        component="form"
        aria-label="First account"
        onSubmit={submit}
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
        {make.error && <Notice problem={make.error} />}
        {field("house", "Name of the house", {
          autoFocus: true,
          helperText: "As it stands on tickets and lists; may stay empty.",
        })}
        {field("username", "Your name for signing in", { autoComplete: "username" })}
        {field("password", "Password", {
          type: "password",
          autoComplete: "new-password",
          helperText: "At least 10 characters.",
        })}
        <Button
          type="submit"
          variant="contained"
          disabled={make.isPending || !draft.username || draft.password.length < 10}
        >
          Make the account and begin
        </Button>
      </Box>
    </Box>
  );
}
