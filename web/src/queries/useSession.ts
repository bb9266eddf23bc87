import { useQuery } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "./keys";

export const sessionKey = keys.session;

/** Who is signed in. */
export function useSession() {
  return useQuery({
    queryKey: sessionKey,
    queryFn: () => ask(api.GET("/api/session")),
    staleTime: Infinity,
  });
}
