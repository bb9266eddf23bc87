import { describe, expect, it } from "vitest";

import {
  held,
  MARGIN,
  MAX_SCALE,
  toPane,
  toPicture,
  visibleBox,
  wholePicture,
  zoomAt,
} from "./geometry";

const picture = { width: 2000, height: 1000 };
const pane = { width: 500, height: 400 };

describe("the camera", () => {
  it("shows the whole picture with its margin", () => {
    const camera = wholePicture(picture, pane);
    expect(camera.scale).toBeCloseTo((500 - 2 * MARGIN) / 2000);
    expect(toPane(camera, pane, 0, 500)[0]).toBeCloseTo(MARGIN);
    expect(toPane(camera, pane, 2000, 500)[0]).toBeCloseTo(500 - MARGIN);
  });

  it("finds the same point both ways", () => {
    const camera = { cx: 321, cy: 654, scale: 0.7 };
    const [x, y] = toPicture(camera, pane, 111, 222);
    expect(toPane(camera, pane, x, y)).toEqual([expect.closeTo(111), expect.closeTo(222)]);
  });

  it("keeps the point under the pointer while zooming", () => {
    const camera = held({ cx: 1000, cy: 500, scale: 1 }, picture, pane);
    const before = toPicture(camera, pane, 200, 150);
    const after = toPicture(zoomAt(camera, picture, pane, 200, 150, 2), pane, 200, 150);
    expect(after[0]).toBeCloseTo(before[0]);
    expect(after[1]).toBeCloseTo(before[1]);
  });

  it("stops at the whole picture and at sixteen screen pixels", () => {
    const camera = wholePicture(picture, pane);
    expect(zoomAt(camera, picture, pane, 10, 10, 0.01).scale).toBeCloseTo(camera.scale);
    expect(zoomAt(camera, picture, pane, 10, 10, 1e6).scale).toBe(MAX_SCALE);
  });

  it("never loses the picture at its edges", () => {
    const camera = held({ cx: -9000, cy: 9000, scale: 1 }, picture, pane);
    expect(toPane(camera, pane, 0, 0)[0]).toBeCloseTo(MARGIN);
    expect(toPane(camera, pane, 0, 1000)[1]).toBeCloseTo(400 - MARGIN);
  });

  it("centres what fits", () => {
    expect(held({ cx: 5, cy: 5, scale: 0.1 }, picture, pane)).toEqual({
      cx: 1000,
      cy: 500,
      scale: 0.1,
    });
  });

  it("asks for what is visible only, in whole pixels inside the picture", () => {
    const box = visibleBox({ cx: 100, cy: 50, scale: 2 }, picture, pane);
    expect(box).toEqual({ x: 0, y: 0, w: 225, h: 150 });
    const whole = visibleBox(wholePicture(picture, pane), picture, pane);
    expect(whole).toEqual({ x: 0, y: 0, w: 2000, h: 1000 });
  });
});
