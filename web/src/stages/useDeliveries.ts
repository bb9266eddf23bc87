import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "../queries/keys";

const ACTIVE = new Set(["waiting", "running"]);
export const deliveriesKey = (destination: number) => [...keys.deliveries, destination] as const;

/** Deliveries of a destination, asked for again while one is under way. A new one waits for what was
 * changed before it: it has to be made by that. */
export function useDeliveries(destination: number, settled: () => Promise<void>) {
  const client = useQueryClient();
  const path = { params: { path: { id: destination } } };
  const deliveries = useQuery({
    queryKey: deliveriesKey(destination),
    queryFn: () => ask(api.GET("/api/destinations/{id}/deliveries", path)),
    refetchInterval: (query) => (query.state.data?.some((d) => ACTIVE.has(d.state)) ? 500 : false),
  });
  const start = useMutation({
    mutationFn: async () => {
      await settled();
      return ask(api.POST("/api/destinations/{id}/deliveries", path));
    },
    onSuccess: () => client.invalidateQueries({ queryKey: deliveriesKey(destination) }),
  });
  return { deliveries, start };
}
