import { Box, Typography } from "@mui/material";
import { useState } from "react";

import type { ImagesOf, OutputPolicy } from "../api";
import { Pick } from "../ui";
import { NumberField, Toggle } from "../ui/controls";

interface Props {
  policy: OutputPolicy;
  set: (part: Partial<OutputPolicy>) => void;
}

type Kind = "colour" | "grey" | "line art";
const KINDS: Record<Kind, string> = {
  colour: "all images",
  grey: "grey images",
  "line art": "line art, 1 bit",
};

/** What line art and grey images begin with when they get values of their own. */
const FIRST: Record<"grey" | "line art", Partial<ImagesOf["resolution"]>> = {
  grey: {},
  "line art": { low: 550, high: 2400, to: 1200 },
};

/** Resolution and packing of images: for all, or apart for a kind of them. */
export function Images({ policy, set }: Props) {
  const [kind, setKind] = useState<Kind>("colour");
  const general = { resolution: policy.resolution, compression: policy.compression };
  const own: ImagesOf | undefined = kind === "colour" ? general : policy.images?.[kind];
  const put = (part: Partial<ImagesOf>) => {
    if (kind === "colour") set(part);
    else set({ images: { ...policy.images, [kind]: { ...(own ?? general), ...part } } });
  };
  const apart = (on: boolean) => {
    if (kind === "colour") return;
    const others = Object.fromEntries(
      Object.entries(policy.images ?? {}).filter(([other]) => other !== kind),
    );
    const first = { ...general.resolution, ...FIRST[kind] };
    set({ images: on ? { ...others, [kind]: { ...general, resolution: first } } : others });
  };
  return (
    <Box role="group" aria-label="Images" sx={{ breakInside: "avoid" }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 1.5, mb: 0.5 }}>
        <Typography variant="h2">Images</Typography>
        <Pick label="Kind of images" value={kind} options={KINDS} onChange={setKind} />
      </Box>
      {kind !== "colour" && (
        <Toggle
          label="Apart from the others"
          checked={own !== undefined}
          onChange={apart}
          help="Off: what is said of all images holds for these; line art is then never reduced."
        />
      )}
      {own && <Treatment own={own} lossless={kind === "line art"} put={put} />}
    </Box>
  );
}

interface TreatmentProps {
  own: ImagesOf;
  lossless: boolean;
  put: (part: Partial<ImagesOf>) => void;
}

function Treatment({ own: { resolution, compression }, lossless, put }: TreatmentProps) {
  return (
    <>
      <Toggle
        label="Reduce fine images"
        checked={resolution.above === "downsample"}
        onChange={(on) =>
          put({ resolution: { ...resolution, above: on ? "downsample" : "report" } })
        }
        help={`Images above ${resolution.high} ppi at their largest size are reduced by a Lanczos filter.`}
      />
      <NumberField
        label="Coarse below"
        help="Images coarser than this are reported."
        value={resolution.low}
        unit="ppi"
        min={0}
        max={10_000}
        onRest={(low) => low !== null && put({ resolution: { ...resolution, low } })}
      />
      <NumberField
        label="Fine above"
        help="Images finer than this are reduced or reported."
        value={resolution.high}
        unit="ppi"
        min={72}
        max={20_000}
        onRest={(high) => high && put({ resolution: { ...resolution, high } })}
      />
      <NumberField
        label="To"
        help="What they are reduced to."
        value={resolution.to}
        unit="ppi"
        min={36}
        max={10_000}
        onRest={(to) => to && put({ resolution: { ...resolution, to } })}
      />
      {!lossless && (
        <Toggle
          label="JPEG for images"
          checked={compression.kind === "jpeg"}
          onChange={(on) =>
            put({ compression: { ...compression, kind: on ? "jpeg" : "lossless" } })
          }
          help={`Quality ${compression.quality}. Off: lossless.`}
        />
      )}
      {!lossless && compression.kind === "jpeg" && (
        <NumberField
          label="Quality"
          help="100 is the largest file with the least loss."
          value={compression.quality}
          unit=""
          min={1}
          max={100}
          onRest={(quality) => quality && put({ compression: { ...compression, quality } })}
        />
      )}
    </>
  );
}
