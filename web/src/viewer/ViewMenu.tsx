import { ButtonBase, Divider, Menu, MenuItem } from "@mui/material";
import { useState } from "react";

import { type Surround, SURROUNDS } from "../theme";
import { type Arrangement, ARRANGEMENTS, type Layout, LAYOUTS } from "./layouts";

interface Props {
  percent: number;
  whole: boolean;
  onWhole: () => void;
  onActual: () => void;
  layout: Layout;
  onLayout: (layout: Layout) => void;
  arrangement: Arrangement;
  onArrangement: (arrangement: Arrangement) => void;
  surround: Surround;
  onSurround: (surround: Surround) => void;
  bar: boolean;
  onBar: (bar: boolean) => void;
  sheet: boolean;
  onSheet: (sheet: boolean) => void;
  /** The whole look as a file, and from one. */
  onLookOut: () => void;
  onLookIn: () => void;
  /** Comparisons that make no sense for this artwork and condition. */
  without: Layout[];
}

/** Size, comparison, arrangement and surround of the pictures. */
export function ViewMenu({
  percent,
  whole,
  onWhole,
  onActual,
  layout,
  onLayout,
  arrangement,
  onArrangement,
  surround,
  onSurround,
  bar,
  onBar,
  sheet,
  onSheet,
  onLookOut,
  onLookIn,
  without,
}: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const item = (
    key: string,
    label: string,
    selected: boolean,
    act: () => void,
    disabled = false,
  ) => (
    <MenuItem
      key={key}
      selected={selected}
      disabled={disabled}
      onClick={() => {
        act();
        setAnchor(null);
      }}
    >
      {label}
    </MenuItem>
  );
  const many = layout === "intents" || layout === "conditions";
  return (
    <>
      <ButtonBase
        sx={{ fontSize: 12, px: 1, height: 24, whiteSpace: "nowrap" }}
        onClick={(e) => setAnchor(e.currentTarget)}
        aria-haspopup="menu"
      >
        View, {Math.round(percent)} %
      </ButtonBase>
      <Menu anchorEl={anchor} open={Boolean(anchor)} onClose={() => setAnchor(null)}>
        {item("whole", "Whole picture (W)", whole, onWhole)}
        {item("actual", "One pixel to one pixel (Q)", false, onActual)}
        <Divider />
        {Object.entries(LAYOUTS)
          .filter(([key]) => !without.includes(key as Layout))
          .map(([key, label]) => item(key, label, key === layout, () => onLayout(key as Layout)))}
        <Divider />
        {Object.entries(ARRANGEMENTS).map(([key, label]) =>
          item(
            key,
            label,
            key === arrangement && !many,
            () => onArrangement(key as Arrangement),
            many,
          ),
        )}
        <Divider />
        {Object.entries(SURROUNDS).map(([key, s]) =>
          item(key, `Surround: ${s.label}`, key === surround, () => onSurround(key as Surround)),
        )}
        {item("bar", "Saturated bars beside the pictures", bar, () => onBar(!bar))}
        {item("sheet", "The sheet around the print, as it is delivered", sheet, () =>
          onSheet(!sheet),
        )}
        <Divider />
        {item("look-out", "This look as a file", false, onLookOut)}
        {item("look-in", "A look from a file…", false, onLookIn)}
      </Menu>
    </>
  );
}
