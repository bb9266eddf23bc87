import { Box, Button, Typography } from "@mui/material";
import { Canvas } from "@react-three/fiber";
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import {
  BufferAttribute,
  BufferGeometry,
  type Camera as Camera3D,
  type Group,
  Vector3,
  type WebGLRenderer,
} from "three";

import type { Cloud, GamutsReport } from "../api";
import { save } from "../plots/save";
import { Explained, number, Pick } from "../ui";
import { Floor } from "./Floor";
import { LineKey } from "./GamutTables";
import { Body, Camera, Chosen, type Form, FORMS, START, type View } from "./InSpace";
import { at, filled } from "./shapes";

const TURN = 5;
/** Screen pixels within which a click means a dot, and a press that moved less is a click. */
const NEAR = 10;
const STILL = 3;

interface Props {
  report: GamutsReport;
  /** The picture or list whose colours are dots. */
  cloud: Cloud | undefined;
  /** Place of the chosen one among them. */
  chosen: number | null;
  onChoose: (place: number) => void;
}

/** Bodies and a picture's colours in space, turned by dragging or by the arrow keys; a click chooses a dot. */
export function Space({ report, cloud, chosen, onChoose }: Props) {
  const [view, setView] = useState<View>(START);
  const [forms, setForms] = useState<Record<string, Form>>({});
  const [plain, setPlain] = useState(false);
  const scene = useRef<Group>(null);
  const gl = useRef<WebGLRenderer | null>(null);
  const eye = useRef<Camera3D | null>(null);
  const drag = useRef<[number, number] | null>(null);
  const pressed = useRef<[number, number] | null>(null);
  const known = useMemo(
    () => report.bodies.flatMap((b) => (b.figures ? [b.figures] : [])),
    [report.bodies],
  );
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
  const released = (event: PointerEvent) => {
    drag.current = null;
    const from = pressed.current;
    const camera = eye.current;
    if (!from || !camera || !cloud) return;
    if (Math.hypot(event.clientX - from[0], event.clientY - from[1]) > STILL) return;
    const box = event.currentTarget.getBoundingClientRect();
    const far = cloud.points.map((p) => {
      const [x = 0, y = 0, z = 0] = at(p);
      const seen = new Vector3(x, y, z).project(camera);
      return Math.hypot(
        box.left + ((seen.x + 1) / 2) * box.width - event.clientX,
        box.top + ((1 - seen.y) / 2) * box.height - event.clientY,
      );
    });
    const least = Math.min(...far);
    if (least <= NEAR) onChoose(far.indexOf(least));
  };
  const mine = chosen === null ? undefined : cloud?.points[chosen];
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
          pressed.current = drag.current;
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={moved}
        onPointerUp={released}
        data-chosen={chosen ?? ""}
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
            eye.current = state.camera;
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
          {mine && <Chosen lab={mine} />}
        </Canvas>
      </Box>
    </>
  );
}
