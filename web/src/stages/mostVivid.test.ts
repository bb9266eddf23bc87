import { describe, expect, it } from "vitest";

import { PLAIN_PERCEPTUAL } from "../ui/perceptual";
import { wayName } from "./MostVivid";

describe("wayName", () => {
  it("names what makes a way and nothing that does not act", () => {
    const plain = { intent: "perceptual", bpc: true, perceptual: null, vivid: null } as const;
    expect(wayName(plain)).toBe("Perceptual");
    const vivid = { space: "p3", strength: 50 } as const;
    expect(wayName({ ...plain, perceptual: { ...PLAIN_PERCEPTUAL, kind: "vivid" }, vivid })).toBe(
      "Perceptual, vivid, source widened as far as P3 D65 by 50 %",
    );
    expect(
      wayName({
        ...plain,
        intent: "relative",
        bpc: false,
        perceptual: { ...PLAIN_PERCEPTUAL, kind: "vivid" },
      }),
    ).toBe("Relative colorimetric, no BPC");
    expect(wayName({ ...plain, intent: "absolute", bpc: false })).toBe("Absolute colorimetric");
  });
});
