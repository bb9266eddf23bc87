import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { Color, SRGBColorSpace } from "three";

import type { BodyFigures } from "../api";
import { labCodes } from "../plots/labColour";
import { meshOf } from "./outline";
import { at, filled, threads } from "./shapes";

export const FORMS = { solid: "solid", net: "net", dots: "dots", hidden: "hidden" } as const;
export type Form = keyof typeof FORMS;
const DEGREE = Math.PI / 180;

/** A body as a solid, a net or dots. */
export function Body({
  figures,
  form,
  plain,
}: {
  figures: BodyFigures;
  form: Form;
  plain: boolean;
}) {
  const mesh = useMemo(() => meshOf(figures), [figures]);
  const [solid, net] = useMemo(
    () => [filled(mesh.lab, mesh.triangles), filled(mesh.lab, threads(mesh))],
    [mesh],
  );
  useEffect(
    () => () => {
      solid.dispose();
      net.dispose();
    },
    [solid, net],
  );
  if (form === "hidden") return null;
  if (form === "dots")
    return (
      <points geometry={solid}>
        <pointsMaterial size={0.012} vertexColors={!plain} color={plain ? "#222" : "#fff"} />
      </points>
    );
  return (
    <>
      {form === "solid" && (
        <mesh geometry={solid}>
          <meshBasicMaterial
            vertexColors={!plain}
            color={plain ? "#9a9a9a" : "#fff"}
            polygonOffset
            polygonOffsetFactor={1}
            polygonOffsetUnits={1}
          />
        </mesh>
      )}
      <lineSegments geometry={net}>
        <lineBasicMaterial
          vertexColors={form === "net" && !plain}
          color={form === "solid" ? "#000" : plain ? "#222" : "#fff"}
          transparent
          opacity={form === "solid" ? 0.22 : 1}
        />
      </lineSegments>
    </>
  );
}

/** Where the eye stands: degrees around and up, and how far away. */
export interface View {
  azimuth: number;
  height: number;
  distance: number;
}

/** The eye, moved as the view says. */
export function Camera({ azimuth, height, distance }: View) {
  const { camera, invalidate } = useThree();
  useEffect(() => {
    const flat = Math.cos(height * DEGREE) * distance;
    camera.position.set(
      flat * Math.sin(azimuth * DEGREE),
      Math.sin(height * DEGREE) * distance,
      flat * Math.cos(azimuth * DEGREE),
    );
    camera.lookAt(0, -0.08, 0);
    invalidate();
  }, [camera, invalidate, azimuth, height, distance]);
  return null;
}

export const START: View = { azimuth: 28, height: 24, distance: 3.4 };

/** The chosen colour, seen through everything, with a line down to its grey. */
export function Chosen({ lab }: { lab: readonly number[] }) {
  const [x = 0, y = 0, z = 0] = at(lab);
  const made = useMemo(() => filled([lab, [lab[0] ?? 0, 0, 0]]), [lab]);
  const [r = 0, g = 0, b = 0] = labCodes(lab).map((v) => v / 255);
  const colour = useMemo(() => new Color().setRGB(r, g, b, SRGBColorSpace), [r, g, b]);
  useEffect(() => () => made.dispose(), [made]);
  return (
    <>
      <lineSegments geometry={made} renderOrder={2}>
        <lineBasicMaterial color="#000" depthTest={false} />
      </lineSegments>
      {(
        [
          [0.05, "#000"],
          [0.044, "#fff"],
          [0.034, colour],
        ] as const
      ).map(([size, paint], i) => (
        <mesh key={size} position={[x, y, z]} renderOrder={3 + i}>
          <sphereGeometry args={[size, 20, 14]} />
          <meshBasicMaterial color={paint} depthTest={false} />
        </mesh>
      ))}
    </>
  );
}
