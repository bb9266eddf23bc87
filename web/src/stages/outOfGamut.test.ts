import { describe, expect, it } from "vitest";

import { noNearPrint } from "./OutOfGamut";

const family = (name: string, far: boolean) => ({
  family: name,
  share: 31.4,
  chroma_original: 40,
  chroma_aim: 40,
  chroma_printed: 5,
  chroma_kept: 12,
  de00_mean: 24.4,
  out: 100,
  far,
});

describe("noNearPrint", () => {
  it("names the families that are far and no others", () => {
    const said = noNearPrint([family("blues", true), family("yellows", false)]);
    expect(said).toMatch(/^No near print here for blues \(31 % of the picture, 24 ΔE00 off\)\. /);
    expect(said).not.toContain("yellows");
    expect(noNearPrint([family("yellows", false)])).toBeNull();
  });
});
