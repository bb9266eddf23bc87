import { useQuery } from "@tanstack/react-query";

import { api, ask } from "../api";

export const sessionKey = ["session"] as const;

/** Who is signed in. */
export function useSession() {
  return useQuery({
    queryKey: sessionKey,
    queryFn: () => ask(api.GET("/api/session")),
    staleTime: Infinity,
  });
}
