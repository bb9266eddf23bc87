import { Button, Link, MenuItem, Select, Typography } from "@mui/material";

import { Sentence } from "../shell";
import { Toggle } from "./controls";
import { Deliveries } from "./Deliveries";
import type { StageProps } from "./StageRail";
import { useDeliveries } from "./useDeliveries";

const KINDS = [
  { key: "TIFF-16", label: "TIFF, 16 bit per ink" },
  { key: "TIFF-8", label: "TIFF, 8 bit per ink" },
  { key: "JPEG-8", label: "JPEG, 8 bit per ink" },
];

/** Write the file: format, profile in or out, and the deliveries so far. */
export function DeliverStage({ destination, control }: StageProps) {
  const { delivery } = control.recipe;
  const { deliveries, start } = useDeliveries(destination.id);
  const set = (part: Partial<typeof delivery>) => control.commit({ delivery: part });
  const kind = (key: string) => {
    const [format, bits] = key.split("-");
    set({ format: format as "TIFF" | "JPEG", bits: Number(bits) as 8 | 16 });
  };
  return (
    <>
      <Select fullWidth value={`${delivery.format}-${delivery.bits}`} inputProps={{ "aria-label": "Format" }} onChange={(e) => kind(e.target.value)}>
        {KINDS.map((k) => <MenuItem key={k.key} value={k.key}>{k.label}</MenuItem>)}
      </Select>
      {delivery.format === "TIFF" && (
        <Select fullWidth sx={{ mt: 0.75 }} value={delivery.compression} inputProps={{ "aria-label": "Compression" }} onChange={(e) => set({ compression: e.target.value as typeof delivery.compression })}>
          <MenuItem value="deflate">Deflate, lossless</MenuItem>
          <MenuItem value="lzw">LZW, lossless</MenuItem>
          <MenuItem value="none">Not compressed</MenuItem>
        </Select>
      )}
      <Toggle label="Profile embedded" checked={delivery.embed} onChange={(embed) => set({ embed })} help="With the profile every receiver knows what the inks mean. Without it the numbers stand alone, as some printers' systems want." />
      <Toggle label="Mirror" checked={delivery.mirror} onChange={(mirror) => set({ mirror })} help="Left and right exchanged, for transfer printing and back-printed film." />
      <Toggle label="Negative" checked={delivery.negative} onChange={(negative) => set({ negative })} help="Every tone value reversed, for film and plates that are copied negative." />
      <Sentence>
        {delivery.embed ? "The receiver sees the colours you see." : "Bare numbers: the receiver must know that they were made for this condition."}
        {destination.condition.mirror && !delivery.mirror && " This condition is a transfer print; it usually wants a mirrored file."}
      </Sentence>
      <Button fullWidth variant="contained" disabled={start.isPending} onClick={() => start.mutate()}>Deliver</Button>
      {start.error && <Typography role="alert" sx={{ mt: 1, fontWeight: 700 }}>{start.error.message}</Typography>}
      <Deliveries deliveries={deliveries.data ?? []} destination={destination.id} />
      <Link href={`/api/destinations/${destination.id}/recipe`} download color="inherit" sx={{ display: "inline-block", mt: 1 }}>Recipe as a file</Link>
    </>
  );
}
