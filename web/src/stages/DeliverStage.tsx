import { Box, Button, Link, Typography } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, ask } from "../api";
import { keys } from "../queries/keys";
import { Pick, Sentence } from "../ui";
import { Dial, Toggle } from "../ui/controls";
import { hasInks } from "../ui/wording";
import { ColourTables } from "./ColourTables";
import { BeforeItGoes, useCheck } from "./deliver/BeforeItGoes";
import { Compare } from "./deliver/Compare";
import { CorrectedArtwork } from "./deliver/CorrectedArtwork";
import { FileName } from "./deliver/FileName";
import { Films } from "./deliver/Films";
import { ProofPrint } from "./deliver/ProofPrint";
import { Sizing } from "./deliver/Sizing";
import { TicketSettings } from "./deliver/TicketSettings";
import { Deliveries } from "./Deliveries";
import type { StageProps } from "./StageRail";
import { useDeliveries } from "./useDeliveries";

/** Formats that screens and the web take beside those of print. */
const RGB_KINDS: Record<string, string> = {
  "PNG-8": "PNG, 8 bit per channel",
  "PNG-16": "PNG, 16 bit per channel",
};
const KINDS: Record<string, string> = {
  "TIFF-16": "TIFF, 16 bit per ink",
  "TIFF-8": "TIFF, 8 bit per ink",
  "JPEG-8": "JPEG, 8 bit per ink",
  "PDF-8": "PDF, 8 bit per ink",
  "PDF-16": "PDF, 16 bit per ink",
};

/** Write the file: format, size, films, ticket, a check before it goes, and the deliveries so far. */
export function DeliverStage(props: StageProps) {
  const { job, destination, control } = props;
  const client = useQueryClient();
  const { delivery } = control.recipe;
  const { deliveries, start } = useDeliveries(destination.id, control.settled);
  const set = (part: Partial<typeof delivery>) => control.commit({ delivery: part });
  const kind = (key: string) => {
    const [format, bits] = key.split("-");
    set({
      format: format as typeof delivery.format,
      bits: Number(bits) as 8 | 16,
      ...(format !== "TIFF" && delivery.apart && { apart: false }),
    });
  };
  const check = useCheck(props, deliveries.data?.length ?? 0);
  const all = useMutation({
    mutationFn: async () => {
      await control.settled();
      return ask(api.POST("/api/jobs/{id}/deliveries", { params: { path: { id: job.id } } }));
    },
    onSuccess: () => client.invalidateQueries({ queryKey: keys.deliveries }),
  });
  const rgb = destination.condition.profile.colour_space === "RGB";
  const stopped = check.state !== "found" || check.findings.some((f) => f.level === "stop");
  const inks = destination.condition.profile.inks?.channels.map((c) => c.name).join("") ?? "";
  const ownInks = inks !== "" && inks !== "CMYK";
  const kinds = delivery.films
    ? Object.keys(KINDS).filter((k) => k.endsWith(`-${delivery.bits}`) && !k.startsWith("JPEG"))
    : [
        ...Object.keys(KINDS).filter((k) => !ownInks || !k.startsWith("JPEG")),
        ...(rgb ? Object.keys(RGB_KINDS) : []),
      ];
  const error = start.error ?? all.error;
  return (
    <>
      <Pick
        field
        label="Format"
        value={`${delivery.format}-${delivery.bits}`}
        options={kinds.map((k): [string, string] => [
          k,
          delivery.films
            ? `${k.split("-")[0]} films`
            : ((rgb ? (RGB_KINDS[k] ?? KINDS[k]?.replace("ink", "channel")) : KINDS[k]) ?? k),
        ])}
        onChange={kind}
      />
      {delivery.format === "TIFF" && !delivery.films && (
        <>
          <Pick
            field
            label="Compression"
            value={delivery.compression}
            options={{ deflate: "Deflate, lossless", lzw: "LZW, lossless", none: "Not compressed" }}
            onChange={(compression) => set({ compression })}
            sx={{ mt: 0.75 }}
          />
          <Toggle
            label="In tiles"
            checked={delivery.tiles}
            onChange={(tiles) => set({ tiles })}
            help="256 × 256 pixel tiles in place of strips, for programs that look at parts of large pictures."
          />
          {inks !== "" && (
            <Toggle
              label="One file per ink"
              checked={delivery.apart}
              onChange={(apart) => set({ apart })}
              help="A grey TIFF for every ink in one ZIP, black where the ink is full."
            />
          )}
        </>
      )}
      {delivery.format === "JPEG" && (
        <Dial
          label="Quality"
          unit=""
          min={1}
          max={100}
          value={delivery.quality}
          help="100 is the largest file with the least loss."
          onLive={(quality) => control.preview({ delivery: { ...delivery, quality } })}
          onRest={(quality) => set({ quality })}
        />
      )}
      {delivery.bits === 8 && !delivery.films && (
        <>
          <Pick
            field
            label="Dither"
            value={delivery.dither}
            options={{
              smooth: "Dithered where the artwork has 16 bits",
              always: "Dithered",
              never: "Not dithered",
            }}
            onChange={(dither) => set({ dither })}
            sx={{ mt: 0.75 }}
          />
          <Sentence>
            Dithered, smooth passages show no steps; limits hold, paper and solids stay.
          </Sentence>
        </>
      )}
      {!delivery.films && (
        <Toggle
          label="Profile embedded"
          checked={delivery.embed}
          onChange={(embed) => set({ embed })}
          help="With the profile every receiver knows what the inks mean. Without it the numbers stand alone, as some printers' systems want."
        />
      )}
      <Toggle
        label="Mirror"
        checked={delivery.mirror}
        onChange={(mirror) => set({ mirror })}
        help="Left and right exchanged, for transfer printing and back-printed film."
      />
      <Toggle
        label="Plates reversed"
        checked={delivery.negative}
        onChange={(negative) => set({ negative })}
        help="Every tone value of the result is reversed, for film and plates that are copied negative. A photographic negative as artwork is turned in the stage Source."
      />
      {!delivery.films && (
        <Sentence>
          {delivery.embed
            ? "The receiver sees the colours you see."
            : "Bare numbers: the receiver must know that they were made for this condition."}
        </Sentence>
      )}
      <Sizing {...props} />
      {!rgb && <Films {...props} />}
      {rgb && <ColourTables {...props} side="after" />}
      <TicketSettings {...props} />
      <FileName {...props} next={check.fileName} />
      <Compare {...props} />
      {destination.condition.process !== "display" && <ProofPrint {...props} />}
      <CorrectedArtwork {...props} />
      <BeforeItGoes check={check} />
      <Typography
        variant="body2"
        data-testid="next-file"
        sx={{ mb: 0.75, overflowWrap: "anywhere" }}
      >
        {check.fileName}
      </Typography>
      <Button
        fullWidth
        variant="contained"
        disabled={start.isPending || stopped}
        onClick={() => start.mutate()}
      >
        Deliver
      </Button>
      {job.destinations.length > 1 && (
        <Button
          fullWidth
          sx={{ mt: 0.75 }}
          disabled={all.isPending || stopped}
          onClick={() => all.mutate()}
        >
          Deliver all {job.destinations.length} conditions
        </Button>
      )}
      {error && (
        <Typography role="alert" sx={{ mt: 1, fontWeight: 700 }}>
          {error.message}
        </Typography>
      )}
      {all.data && !error && (
        <Typography role="status" sx={{ mt: 0.75 }}>
          {all.data.length} deliveries started; each is listed with its condition.
        </Typography>
      )}
      <Deliveries
        deliveries={deliveries.data ?? []}
        destination={destination.id}
        inks={hasInks(destination.condition)}
      />
      <Box sx={{ display: "flex", gap: 1.5, mt: 1 }}>
        <Link href={`/api/destinations/${destination.id}/recipe`} download color="inherit">
          Recipe as a file
        </Link>
        <Link href={`/api/destinations/${destination.id}/package`} download color="inherit">
          With its profiles
        </Link>
      </Box>
    </>
  );
}
