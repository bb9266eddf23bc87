import { queryOptions } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "./keys";

export const foldersQuery = queryOptions({
  queryKey: keys.folders,
  queryFn: () => ask(api.GET("/api/folders")),
  refetchInterval: 1000,
});
