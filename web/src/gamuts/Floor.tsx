import { useEffect, useMemo } from "react";
import { BufferAttribute, BufferGeometry, CanvasTexture } from "three";

import type { BodyFigures } from "../api";
import { cutOutline } from "./outline";
import { filled } from "./shapes";

const DEGREE = Math.PI / 180;

/** The floor: a ring of hues, the axes, and how far each body reaches over it. */
export function Floor({ bodies }: { bodies: BodyFigures[] }) {
  const [ring, axes, shadows] = useMemo(() => {
    const round = Array.from({ length: 121 }, (_, i): [number, number, number] => {
      const hue = i * 3 * DEGREE;
      return [70, 120 * Math.cos(hue), 120 * Math.sin(hue)];
    });
    const ring = filled(round);
    const flat = ring.getAttribute("position");
    for (let i = 0; i < flat.count; i++) flat.setY(i, -0.5);
    const axes = new BufferGeometry().setAttribute(
      "position",
      new BufferAttribute(
        new Float32Array([-1.2, -0.5, 0, 1.2, -0.5, 0, 0, -0.5, -1.2, 0, -0.5, 1.2, 0, -0.5, 0, 0, 0.5, 0]), // prettier-ignore
        3,
      ),
    );
    const shadows = bodies.map((body) => {
      const cuts = Array.from({ length: 51 }, (_, i) => cutOutline(body, i * 2)).filter(
        (c) => c.length,
      );
      const far = Array.from({ length: 120 }, (_, i) =>
        cuts.reduce(
          (best, cut) => {
            const point = cut[i] ?? [0, 0];
            return Math.hypot(...point) > Math.hypot(...best) ? point : best;
          },
          [0, 0] as [number, number],
        ),
      );
      const line = [...far, far[0] ?? [0, 0]].flatMap(([a, b]) => [a / 100, -0.5, -b / 100]);
      return new BufferGeometry().setAttribute("position", new BufferAttribute(new Float32Array(line), 3)); // prettier-ignore
    });
    return [ring, axes, shadows];
  }, [bodies]);
  return (
    <>
      <points geometry={ring}>
        <pointsMaterial size={0.035} vertexColors />
      </points>
      <lineSegments geometry={axes}>
        <lineBasicMaterial color="#444" />
      </lineSegments>
      {shadows.map((line, i) => (
        <lineLoop key={i} geometry={line}>
          <lineBasicMaterial color="#000" transparent opacity={i === 0 ? 0.9 : 0.45} />
        </lineLoop>
      ))}
      <Label text="+a*" place={[1.3, -0.5, 0]} />
      <Label text="+b*" place={[0, -0.5, -1.3]} />
      <Label text="L* 100" place={[0, 0.57, 0]} />
    </>
  );
}

function Label({ text, place }: { text: string; place: [number, number, number] }) {
  const map = useMemo(() => {
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [128, 48];
    const context = canvas.getContext("2d");
    if (context) {
      context.font = "600 30px sans-serif";
      context.textAlign = "center";
      context.fillText(text, 64, 34);
    }
    return new CanvasTexture(canvas);
  }, [text]);
  useEffect(() => () => map.dispose(), [map]);
  return (
    <sprite position={place} scale={[0.3, 0.1125, 1]}>
      <spriteMaterial map={map} transparent depthTest={false} />
    </sprite>
  );
}
