import { Box, Button, LinearProgress, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, ask, type Delivery } from "../api";
import { SendOn } from "../queue";
import { deliverFact } from "../ui/wording";
import { deliveriesKey } from "./useDeliveries";

const WORDS = {
  waiting: "waiting for a worker",
  held: "held in the queue",
  running: "converting",
  done: "done",
  failed: "failed",
  cancelled: "cancelled",
};

function DeliveryRow({
  delivery,
  destination,
  inks,
}: {
  delivery: Delivery;
  destination: number;
  inks: boolean;
}) {
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: deliveriesKey(destination) });
  const path = { params: { path: { id: delivery.id } } };
  const cancel = useMutation({
    mutationFn: () => ask(api.POST("/api/deliveries/{id}/cancel", path)),
    onSettled: refresh,
  });
  const again = useMutation({
    mutationFn: () => ask(api.POST("/api/deliveries/{id}/again", path)),
    onSettled: refresh,
  });
  const active =
    delivery.state === "waiting" || delivery.state === "held" || delivery.state === "running";
  const left = delivery.seconds_left;
  return (
    <Box
      component="li"
      data-state={delivery.state}
      sx={{ borderTop: 1, borderColor: "divider", py: 1 }}
    >
      <Typography sx={{ fontWeight: 650, overflowWrap: "anywhere" }}>
        {delivery.file_name}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {WORDS[delivery.state]}
        {delivery.state === "done" &&
          `, ${((delivery.result_size ?? 0) / 1e6).toFixed(1)} MB${inks && !delivery.corrected ? `, TAC ${delivery.tac_max?.toFixed(0)} %` : ""}`}
        {left != null && `, about ${Math.max(1, Math.round(left))} s left`}
        {delivery.corrected
          ? "; the corrected artwork, for no press"
          : `; ${deliverFact(delivery.recipe)}`}
      </Typography>
      {delivery.error && (
        <Typography role="alert" sx={{ fontWeight: 650 }}>
          {delivery.error}
        </Typography>
      )}
      {active && (
        <LinearProgress
          variant="determinate"
          value={(delivery.progress ?? 0) * 100}
          aria-label="Progress"
          sx={{ my: 0.75 }}
        />
      )}
      <Box sx={{ display: "flex", gap: 0.75, mt: 0.5 }}>
        {delivery.state === "done" && !delivery.corrected && (
          <Button
            component="a"
            href={`/api/deliveries/${delivery.id}/ticket.pdf`}
            download={`ticket_${delivery.id}.pdf`}
          >
            Ticket
          </Button>
        )}
        {delivery.state === "done" && !delivery.corrected && (
          <SendOn what={{ delivery: delivery.id }} name={delivery.file_name} />
        )}
        {delivery.state === "done" && (
          <Button
            component="a"
            href={`/api/deliveries/${delivery.id}/file`}
            download={delivery.file_name}
          >
            Download
          </Button>
        )}
        {active ? (
          <Button onClick={() => cancel.mutate()}>Cancel</Button>
        ) : (
          <Button onClick={() => again.mutate()}>Run again</Button>
        )}
      </Box>
    </Box>
  );
}

/** Every delivery keeps its recipe and can be run again. */
export function Deliveries({
  deliveries,
  destination,
  inks,
}: {
  deliveries: Delivery[];
  destination: number;
  inks: boolean;
}) {
  return (
    <Box component="ul" aria-label="Deliveries" sx={{ listStyle: "none", p: 0, m: 0, mt: 1.5 }}>
      {deliveries.map((d) => (
        <DeliveryRow key={d.id} delivery={d} destination={destination} inks={inks} />
      ))}
    </Box>
  );
}
