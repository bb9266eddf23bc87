import { Box, type PopperProps, Tooltip } from "@mui/material";
import { type ReactNode, type Ref, useCallback, useRef } from "react";

import { later } from "./later";
import type { Figure } from "./meanings";

/** The texts are fetched when the first of them is asked for. */
const MeaningText = later(() => import("./MeaningText").then((m) => m.MeaningText));

type Popper = NonNullable<PopperProps["popperRef"]> extends Ref<infer P> ? P : never;

interface Props {
  /** The figure by its entry in the list of meanings. */
  of?: Figure;
  /** What it means here, in place of the entry's text or where there is no entry. */
  text?: string;
  children: ReactNode;
  /** Off where a row of a table or a list already takes the focus for its figures. */
  focus?: boolean;
  /** Where what stands above must not be covered: a picture, its controls. */
  below?: boolean;
}

/** A figure or a name that says on hover or focus how it was computed and why it matters. */
export function Explained({ of, text, children, focus = true, below = false }: Props) {
  const popper = useRef<Popper>(null);
  const place = useCallback(() => void popper.current?.update(), []);
  return (
    <Tooltip
      title={<MeaningText of={of} text={text} onShown={place} />}
      describeChild
      slotProps={{ popper: { popperRef: popper } }}
      placement={below ? "bottom-start" : undefined}
    >
      <Box
        component="span"
        data-explained={of ?? ""}
        tabIndex={focus ? 0 : undefined}
        sx={{ cursor: "help" }}
      >
        {children}
      </Box>
    </Tooltip>
  );
}
