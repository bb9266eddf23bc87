import { Box, Button, Typography } from "@mui/material";
import { Canvas, useThree } from "@react-three/fiber";
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import {
  BufferAttribute,
  BufferGeometry,
  CanvasTexture,
  Color,
  type Group,
  SRGBColorSpace,
  type WebGLRenderer,
} from "three";

import type { BodyFigures, GamutsReport } from "../api";
import { labCodes } from "../plots/labColour";
import { save } from "../plots/save";
import { Explained, number, Pick } from "../ui";
import { LineKey } from "./GamutTables";
import { cutOutline, type Mesh, meshOf } from "./outline";

const FORMS = { solid: "solid", net: "net", dots: "dots", hidden: "hidden" } as const;
type Form = keyof typeof FORMS;
const TURN = 5;
const DEGREE = Math.PI / 180;

/** Where a colour stands: a* to the right, L* up, b* to the back, a hundred units a unit of space. */
const at = ([l = 0, a = 0, b = 0]: readonly number[]) => [a / 100, (l - 50) / 100, -b / 100];

const filled = (lab: readonly (readonly number[])[], index?: number[]) => {
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
const threads = ({ lab, columns }: Mesh) => {
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

function Body({ figures, form, plain }: { figures: BodyFigures; form: Form; plain: boolean }) {
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

/** The floor: a ring of hues, the axes, and how far each body reaches over it. */
function Floor({ bodies }: { bodies: BodyFigures[] }) {
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

interface View {
  azimuth: number;
  height: number;
  distance: number;
}

function Camera({ azimuth, height, distance }: View) {
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

const START: View = { azimuth: 28, height: 24, distance: 3.4 };

/** Bodies and a picture's colours in space, turned by dragging or by the arrow keys. */
export function Space({ report }: { report: GamutsReport }) {
  const [view, setView] = useState<View>(START);
  const [forms, setForms] = useState<Record<string, Form>>({});
  const [plain, setPlain] = useState(false);
  const scene = useRef<Group>(null);
  const gl = useRef<WebGLRenderer | null>(null);
  const drag = useRef<[number, number] | null>(null);
  const known = useMemo(
    () => report.bodies.flatMap((b) => (b.figures ? [b.figures] : [])),
    [report.bodies],
  );
  const cloud = report.clouds[0];
  const [against, setAgainst] = useState("");
  const marked = report.bodies.findIndex((b) => b.of === against);
  const [dots, out, arrows] = useMemo(() => {
    if (!cloud) return [null, null, null];
    const away = cloud.points.filter((_, i) => cloud.away[marked]?.[i]);
    const stay = cloud.points.filter((_, i) => !cloud.away[marked]?.[i]);
    const nearest = cloud.nearest[marked] ?? [];
    // Among more lines than these none can be followed.
    const each = Math.ceil(away.length / 160) || 1;
    const lines = away.flatMap((p, i) =>
      i % each === 0 ? [...at(p), ...at(nearest[i] ?? p)] : [],
    );
    return [
      filled(marked < 0 ? cloud.points : stay),
      marked < 0 ? null : filled(away),
      marked < 0
        ? null
        : new BufferGeometry().setAttribute(
            "position",
            new BufferAttribute(new Float32Array(lines), 3),
          ),
    ];
  }, [cloud, marked]);
  useEffect(
    () => () => {
      for (const made of [dots, out, arrows]) made?.dispose();
    },
    [dots, out, arrows],
  );
  const turn = (azimuth: number, height: number, closer = 1) =>
    setView((v) => ({
      azimuth: v.azimuth + azimuth,
      height: Math.max(-89, Math.min(89, v.height + height)),
      distance: Math.max(1.2, Math.min(6, v.distance * closer)),
    }));
  const keyed = (event: KeyboardEvent) => {
    const acts: Record<string, () => void> = {
      ArrowLeft: () => turn(-TURN, 0),
      ArrowRight: () => turn(TURN, 0),
      ArrowUp: () => turn(0, TURN),
      ArrowDown: () => turn(0, -TURN),
      "+": () => turn(0, 0, 0.9),
      "-": () => turn(0, 0, 1.1),
      Home: () => setView(START),
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  const moved = (event: PointerEvent) => {
    if (!drag.current) return;
    const [x, y] = drag.current;
    turn((x - event.clientX) * 0.4, (event.clientY - y) * 0.4);
    drag.current = [event.clientX, event.clientY];
  };
  const formOf = (of: string, index: number): Form => forms[of] ?? (index === 0 ? "solid" : "net");
  const asModel = async () => {
    const { GLTFExporter } = await import("three/examples/jsm/exporters/GLTFExporter.js");
    if (!scene.current) return;
    const made = await new GLTFExporter().parseAsync(scene.current);
    save("gamuts.gltf", JSON.stringify(made), "model/gltf+json");
  };
  const asPicture = () => {
    const link = document.createElement("a");
    link.download = "gamuts.png";
    link.href = gl.current?.domElement.toDataURL("image/png") ?? "";
    link.click();
  };
  return (
    <>
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center", mb: 1 }}>
        {report.bodies.map((b, i) =>
          b.figures ? (
            <Box key={b.of} sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
              <LineKey index={i} />
              <Typography>{b.name}</Typography>
              <Pick
                label={`How ${b.name} is drawn`}
                value={formOf(b.of, i)}
                options={FORMS}
                onChange={(form) => setForms({ ...forms, [b.of]: form })}
              />
            </Box>
          ) : null,
        )}
        {cloud && (
          <Box sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
            <Typography>
              <Explained text="Colours that this body does not print are large dots; lines lead from some of them to the nearest colour that prints.">
                Unprintable marked for
              </Explained>
            </Typography>
            <Pick
              label="Unprintable marked for"
              value={against}
              options={{
                "": "none",
                ...Object.fromEntries(
                  report.bodies.filter((b) => b.figures).map((b) => [b.of, b.name]),
                ),
              }}
              onChange={setAgainst}
            />
            {marked >= 0 && (
              <Typography role="status" data-explained="">
                {number((cloud.outside[marked] ?? 0) * 100)} %
              </Typography>
            )}
          </Box>
        )}
        <Box sx={{ flex: 1 }} />
        <Button aria-pressed={plain} onClick={() => setPlain(!plain)}>
          Without colours
        </Button>
        <Button onClick={() => setView(START)}>Front</Button>
        <Button onClick={asPicture}>PNG</Button>
        <Button onClick={() => void asModel()}>glTF</Button>
      </Box>
      <Box
        role="application"
        tabIndex={0}
        aria-label="Gamuts in space; arrow keys turn, plus and minus come closer and go away"
        data-azimuth={view.azimuth}
        onKeyDown={keyed}
        onPointerDown={(e) => {
          drag.current = [e.clientX, e.clientY];
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={moved}
        onPointerUp={() => (drag.current = null)}
        onWheel={(e) => turn(0, 0, e.deltaY > 0 ? 1.06 : 0.94)}
        sx={{ height: "max(380px, calc(100vh - 330px))", bgcolor: "#c6c6c6", cursor: "grab" }}
      >
        <Canvas
          flat
          frameloop="demand"
          gl={{ preserveDrawingBuffer: true, antialias: true }}
          camera={{ fov: 40, near: 0.05, far: 20 }}
          onCreated={(state) => {
            gl.current = state.gl;
          }}
        >
          <Camera {...view} />
          <color attach="background" args={["#c6c6c6"]} />
          <Floor bodies={known} />
          <group ref={scene}>
            {report.bodies.map(
              (b, i) =>
                b.figures && (
                  <Body key={b.of} figures={b.figures} form={formOf(b.of, i)} plain={plain} />
                ),
            )}
            {dots && (
              <points geometry={dots}>
                <pointsMaterial size={marked < 0 ? 0.022 : 0.012} vertexColors />
              </points>
            )}
            {out && (
              <points geometry={out}>
                <pointsMaterial size={0.04} vertexColors />
              </points>
            )}
            {arrows && (
              <lineSegments geometry={arrows}>
                <lineBasicMaterial color="#000" />
              </lineSegments>
            )}
          </group>
        </Canvas>
      </Box>
    </>
  );
}
