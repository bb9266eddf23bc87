import { BufferAttribute, BufferGeometry, Color, SRGBColorSpace } from "three";

import { labCodes } from "../plots/labColour";
import type { Mesh } from "./outline";

/** Where a colour stands: a* to the right, L* up, b* to the back, a hundred units a unit of space. */
export const at = ([l = 0, a = 0, b = 0]: readonly number[]) => [a / 100, (l - 50) / 100, -b / 100];

export const filled = (lab: readonly (readonly number[])[], index?: number[]) => {
  const made = new BufferGeometry();
  const colour = new Color();
  const colours = lab.flatMap((p) => {
    const [r, g, b] = labCodes(p);
    return colour.setRGB(r / 255, g / 255, b / 255, SRGBColorSpace).toArray();
  });
  made.setAttribute("position", new BufferAttribute(new Float32Array(lab.flatMap(at)), 3));
  made.setAttribute("color", new BufferAttribute(new Float32Array(colours), 3));
  if (index) made.setIndex(index);
  return made;
};

/** Rings of equal lightness and lines of equal hue, as pairs of vertices. */
export const threads = ({ lab, columns }: Mesh) => {
  const rows = lab.length / columns;
  const index: number[] = [];
  for (let row = 0; row < rows; row++)
    for (let i = 0; i < columns; i++) {
      const here = row * columns + i;
      if (row % 5 === 0) index.push(here, row * columns + ((i + 1) % columns));
      if (i % 5 === 0 && row + 1 < rows) index.push(here, here + columns);
    }
  return index;
};
