import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";

import { DEFAULTS, type OutputPolicy, type PolicyRule } from "../api";
import { Images } from "./Images";
import { unreachable } from "./reach";
import { ruleFor } from "./words";

afterEach(cleanup);

const general = {
  resolution: { low: 100, high: 450, above: "downsample", to: 300 },
  compression: { kind: "jpeg", quality: 80 },
};

function Held({ told }: { told: (policy: OutputPolicy) => void }) {
  const [policy, setPolicy] = useState({ ...general, images: {} } as unknown as OutputPolicy);
  return (
    <Images
      policy={policy}
      set={(part) => {
        const next = { ...policy, ...part };
        told(next);
        setPolicy(next);
      }}
    />
  );
}

describe("images of a kind", () => {
  it("are like all others until they are set apart, and again when that is taken back", () => {
    let now: OutputPolicy | null = null;
    render(<Held told={(p) => (now = p)} />);
    fireEvent.change(screen.getByLabelText("Kind of images"), { target: { value: "line art" } });
    expect(screen.queryByLabelText("Fine above")).toBeNull();
    fireEvent.click(screen.getByLabelText("Apart from the others"));
    expect(now).toMatchObject({
      ...general,
      images: {
        "line art": {
          ...general,
          resolution: { low: 550, high: 2400, above: "downsample", to: 1200 },
        },
      },
    });
    expect(screen.queryByLabelText("JPEG for images")).toBeNull();
    fireEvent.click(screen.getByLabelText("Apart from the others"));
    expect((now as OutputPolicy | null)?.images).toEqual({});
  });

  it("take their own values and leave those of all others", () => {
    let now: OutputPolicy | null = null;
    render(<Held told={(p) => (now = p)} />);
    fireEvent.change(screen.getByLabelText("Kind of images"), { target: { value: "grey" } });
    fireEvent.click(screen.getByLabelText("Apart from the others"));
    fireEvent.click(screen.getByLabelText("JPEG for images"));
    expect(now).toMatchObject({
      ...general,
      images: { grey: { ...general, compression: { kind: "lossless", quality: 80 } } },
    });
    fireEvent.change(screen.getByLabelText("Kind of images"), { target: { value: "colour" } });
    fireEvent.click(screen.getByLabelText("Reduce fine images"));
    expect((now as OutputPolicy | null)?.resolution.above).toBe("report");
    expect((now as OutputPolicy | null)?.images.grey?.resolution.above).toBe("downsample");
  });
});

describe("a rule for a layer", () => {
  const rule = (part: Partial<PolicyRule>): PolicyRule => ({
    ...DEFAULTS.Rule,
    action: "leave",
    ...part,
  });
  it("takes nothing from rules for others", () => {
    expect(unreachable([rule({ layer: "Die" }), rule({}), rule({ layer: "Die" })])).toEqual([
      [],
      [],
      [1],
    ]);
    expect(unreachable([rule({ layer: "Die" }), rule({ layer: "Fold" })])).toEqual([[], []]);
  });
  it("is named with it", () => {
    expect(ruleFor(rule({ layer: "Die*", pages: "odd" }))).toBe(
      "Everything in any space, pages odd, layer “Die*”",
    );
  });
});
