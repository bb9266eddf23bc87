import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, ask } from "../api";

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => ask(api.DELETE("/api/session")),
    onSuccess: () => {
      client.clear();
      window.location.assign("/");
    },
  });
}
