import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { InkChannel } from "../api";
import { InkContext, shortInk, useInks } from "./inks";

const channel = (name: string, solid: number[]): InkChannel =>
  ({ name, role: "extra", of: "", between: null, solid, angle: 0 }) as unknown as InkChannel;

const SEVEN = ["C", "M", "Y", "K", "Orange", "Green", "Violet"];

describe("a letter or two for an ink", () => {
  it("is its own where it has one, and the first of a longer name", () => {
    expect(SEVEN.map((n) => shortInk(n, SEVEN))).toEqual(["C", "M", "Y", "K", "O", "G", "V"]);
  });
  it("is that of both words of a name", () => {
    const six = ["C", "Light cyan", "Light magenta"];
    expect(six.map((n) => shortInk(n, six))).toEqual(["C", "Lc", "Lm"]);
  });
  it("is never that of another", () => {
    const alike = ["K", "Khaki", "Green", "Gold", "Grey"];
    const short = alike.map((n) => shortInk(n, alike));
    expect(new Set(short).size).toBe(alike.length);
    expect(short[0]).toBe("K");
  });
});

function Drawn({ names }: { names: string[] }) {
  const look = useInks();
  return <output>{names.map((n) => `${look.colour(n)}/${look.dash(n)}`).join("|")}</output>;
}

const drawn = (inks: InkChannel[], names: string[]) => {
  const { unmount } = render(
    <InkContext value={inks}>
      <Drawn names={names} />
    </InkContext>,
  );
  const found = (screen.getByRole("status").textContent ?? "").split("|");
  unmount();
  return found;
};

describe("how inks are drawn", () => {
  const inks = [channel("Orange", [70, 50, 80]), channel("Violet", [40, 45, -80])];
  it("has the colour that the profile says they print", () => {
    const [orange, violet, other] = drawn(inks, ["Orange", "Violet", "Unknown"]);
    const codes = /rgb\((\d+) (\d+) (\d+)\)/.exec(orange ?? "");
    const [r = 0, g = 0, b = 0] = (codes ?? []).slice(1).map(Number);
    expect(r).toBeGreaterThan(g);
    expect(g).toBeGreaterThan(b);
    expect(violet).toMatch(/rgb/);
    expect(other).toMatch(/#777777/);
  });
  it("darkens what would not be seen on a light ground", () => {
    const [pale] = drawn([channel("Pale", [98, 0, 0])], ["Pale"]);
    expect(Number(/rgb\((\d+)/.exec(pale ?? "")?.[1])).toBeLessThan(210);
  });
  it("gives every ink a line of its own", () => {
    const all = ["C", "M", "Y", "K", "Orange", "Violet"];
    const dashes = drawn(inks, all).map((d) => d.split("/")[1]);
    expect(new Set(dashes).size).toBe(all.length);
  });
});
