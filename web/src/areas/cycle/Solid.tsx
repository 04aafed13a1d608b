/** The axle in the round: fetched when it is asked for. The same selection, scrubbers and findings as everywhere. */

import { type RefObject, useEffect, useRef, useState } from "react";
import * as three from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";
import styled from "styled-components";

import { bodiesOf, type Document, spotsOf, words } from "../../document/document";
import { capital } from "../../document/parts";
import type { Standing } from "../../floor/geometry";
import { useStanding } from "../../state/poses";
import { usePreferences } from "../../state/preferences";
import { useSelection } from "../../state/selection";
import { Button, Choice, Trouble } from "../../ui/controls";
import type { Shown } from "./Cycle";
import { type Materials, type Named, solidsOf } from "./solids3d";

const Stage = styled.div`
  height: max(26rem, calc(100vh - 17rem));
  border: 1px solid var(--hair);
  background: var(--sheet);
  canvas {
    display: block;
    width: 100%;
    height: 100%;
    touch-action: none;
  }
`;

/** From where it is looked at, as a direction out of its middle. */
const VIEWS = {
  corner: ["From the corner", [0.8, 0.9, 0.55]],
  side: ["Side", [0, 1, 0.0001]],
  rear: ["Rear", [-1, 0, 0.0001]],
  top: ["Top", [-0.0001, 0, 1]],
  under: ["From below", [0.4, 0.6, -0.7]],
} as const;
type ViewName = keyof typeof VIEWS;

/** Whether this browser draws in the round at all. */
const draws = (): boolean => {
  try {
    return window.document.createElement("canvas").getContext("webgl2") !== null;
  } catch {
    return false;
  }
};

export function Solid(shown: Shown) {
  const [can] = useState(draws);
  if (can) return <InTheRound {...shown} />;
  return (
    <Trouble role="alert">
      This browser draws nothing in the round here. The three views on the floor show the same.
    </Trouble>
  );
}

function InTheRound({ document, solved }: Shown) {
  const standing = useStanding(document, solved);
  const [view, setView] = useState<ViewName>("corner");
  const place = useRef<HTMLDivElement>(null);
  const { chosen, finding, choose } = useSelection();
  const part = spotsOf(document).find((spot) => spot.key === chosen[0])?.part ?? null;
  const marked = solved?.answer.findings.find((f) => f.id === finding)?.place.parts ?? [];
  const pick = (id: string) => {
    const spot = spotsOf(document).find((one) => one.part === id || one.name.startsWith(`${id}.`));
    if (spot) choose(spot.key);
  };
  useStage({ place, document, standing, view, part, marked, pick });
  return (
    <>
      <div className="line">
        {(Object.keys(VIEWS) as ViewName[]).map((one) => (
          <Button key={one} aria-pressed={view === one} onPress={() => setView(one)}>
            {VIEWS[one][0]}
          </Button>
        ))}
        <Choice
          label="Part"
          placeholder="Choose a part"
          value={part}
          options={bodiesOf(document).map((body) => [body.id, capital(body.words)] as const)}
          onChange={pick}
        />
        <span className="quiet">
          Drag to turn it, wheel to come nearer; arrows and + − with the keyboard. Press a part to choose it.
        </span>
      </div>
      <Stage
        ref={place}
        role="application"
        aria-roledescription="solid view"
        aria-label={`${document.name} in the round, ${VIEWS[view][0].toLowerCase()}${part ? `; ${words(part)} is chosen` : ""}`}
        tabIndex={0}
      />
    </>
  );
}

interface Staged {
  place: RefObject<HTMLDivElement | null>;
  document: Document;
  standing: Standing;
  view: ViewName;
  part: string | null;
  marked: readonly string[];
  pick: (id: string) => void;
}

/** What stands on the stage between one drawing and the next. */
interface Scene {
  scene: three.Scene;
  camera: three.OrthographicCamera;
  controls: OrbitControls;
  group: three.Group;
  named: Named[];
  draw: () => void;
}

const FAR_MM = 20_000;
const STEP = 0.12;

function useStage({ place, document, standing, view, part, marked, pick }: Staged): void {
  const stage = useRef<Scene | null>(null);
  const theme = usePreferences((s) => s.theme);
  const latest = useRef(pick);
  useEffect(() => {
    latest.current = pick;
  });
  useEffect(() => {
    const box = place.current;
    if (!box) return;
    const [made, end] = staged(box, stage, (id) => latest.current(id));
    stage.current = made;
    return end;
  }, [place]);
  const wide = document.axle.track + document.axle.tire_width;
  useEffect(() => {
    if (stage.current) aim(stage.current, view, wide, document.axle.tire_radius_loaded);
  }, [view, wide, document.axle.tire_radius_loaded]);
  const parts = marked.map((name) => name.split(".")[0]!).join(" ");
  useEffect(() => {
    const now = stage.current;
    if (!now) return;
    for (const { mesh } of now.named) mesh.geometry.dispose();
    now.group.clear();
    now.named = solidsOf({ document, standing, chosen: part, marked: parts.split(" "), use: materials() });
    for (const { mesh } of now.named) now.group.add(mesh);
    now.draw();
  }, [document, standing, part, parts, theme]);
}

/** The colors of the page, as they are in this theme. */
function materials(): Materials {
  const style = getComputedStyle(window.document.documentElement);
  const color = (name: string) => new three.Color(style.getPropertyValue(name).trim() || "#888");
  const solid = (name: string) =>
    new three.MeshLambertMaterial({ color: color(name), side: three.DoubleSide });
  const out = new three.MeshLambertMaterial({
    color: color("--line"), transparent: true, opacity: 0.28, depthWrite: false, side: three.DoubleSide,
  }); // prettier-ignore
  return {
    link: solid("--far"),
    chosen: solid("--accent"),
    marked: solid("--stop"),
    steel: solid("--steel-deep"),
    rubber: solid("--rubber-ink"),
    out,
  };
}

function staged(
  box: HTMLDivElement,
  stage: RefObject<Scene | null>,
  pick: (id: string) => void,
): [Scene, () => void] {
  const renderer = new three.WebGLRenderer({ antialias: true, alpha: true });
  const scene = new three.Scene();
  const camera = new three.OrthographicCamera(-1, 1, 1, -1, 1, 2 * FAR_MM);
  camera.up.set(0, 0, 1);
  const sun = new three.DirectionalLight(0xffffff, 1.9);
  sun.position.set(0.5, 0.7, 1);
  scene.add(new three.AmbientLight(0xffffff, 1.4), sun, new three.GridHelper(4000, 16).rotateX(Math.PI / 2));
  const group = new three.Group();
  scene.add(group);
  box.append(renderer.domElement);
  const controls = new OrbitControls(camera, renderer.domElement);
  const draw = () => renderer.render(scene, camera);
  controls.addEventListener("change", draw);
  const fit = () => {
    const { clientWidth: w, clientHeight: h } = box;
    if (w === 0 || h === 0) return;
    renderer.setSize(w, h, false);
    renderer.setPixelRatio(window.devicePixelRatio);
    camera.left = (-camera.top * w) / h;
    camera.right = (camera.top * w) / h;
    camera.updateProjectionMatrix();
    draw();
  };
  const seen = new ResizeObserver(fit);
  seen.observe(box);
  const made: Scene = { scene, camera, controls, group, named: [], draw };
  const press = pressing(box, camera, stage, pick);
  const keys = (event: KeyboardEvent) => turned(event, made);
  box.addEventListener("keydown", keys);
  return [
    made,
    () => {
      seen.disconnect();
      press();
      box.removeEventListener("keydown", keys);
      controls.dispose();
      renderer.dispose();
      renderer.domElement.remove();
      stage.current = null;
    },
  ];
}

const STILL_PX = 4;

/** A press that does not turn it chooses the part under it. */
function pressing(
  box: HTMLDivElement,
  camera: three.OrthographicCamera,
  stage: RefObject<Scene | null>,
  pick: (id: string) => void,
): () => void {
  let start: [number, number] = [0, 0];
  const down = (event: PointerEvent) => (start = [event.clientX, event.clientY]);
  const up = (event: PointerEvent) => {
    if (Math.hypot(event.clientX - start[0], event.clientY - start[1]) > STILL_PX) return;
    const area = box.getBoundingClientRect();
    const at = new three.Vector2(
      ((event.clientX - area.left) / area.width) * 2 - 1,
      1 - ((event.clientY - area.top) / area.height) * 2,
    );
    const ray = new three.Raycaster();
    ray.setFromCamera(at, camera);
    const parts = (stage.current?.named ?? []).filter(({ sort }) => sort === "part");
    const [first] = ray.intersectObjects(parts.map(({ mesh }) => mesh));
    const found = parts.find(({ mesh }) => mesh === first?.object);
    if (found) pick(found.id);
  };
  box.addEventListener("pointerdown", down);
  box.addEventListener("pointerup", up);
  return () => {
    box.removeEventListener("pointerdown", down);
    box.removeEventListener("pointerup", up);
  };
}

/** Put the camera out along a view's direction, all of the axle in sight. */
function aim({ camera, controls, draw }: Scene, view: ViewName, wide: number, high: number): void {
  const [, [x, y, z]] = VIEWS[view];
  const middle = new three.Vector3(300, 0, 1.1 * high);
  camera.position.copy(middle).add(new three.Vector3(x, y, z).normalize().multiplyScalar(FAR_MM / 2));
  camera.zoom = 1;
  const ratio = camera.right / (camera.top || 1) || 1;
  camera.top = wide * 0.56;
  camera.bottom = -camera.top;
  camera.right = camera.top * ratio;
  camera.left = -camera.right;
  camera.updateProjectionMatrix();
  controls.target.copy(middle);
  controls.update();
  draw();
}

/** Turned and brought nearer by keys. */
function turned(event: KeyboardEvent, { camera, controls, draw }: Scene): void {
  const turns: Record<string, [number, number]> = {
    ArrowLeft: [STEP, 0], ArrowRight: [-STEP, 0], ArrowUp: [0, -STEP], ArrowDown: [0, STEP],
  }; // prettier-ignore
  const turn = turns[event.key];
  const nearer = event.key === "+" || event.key === "=" ? 1.15 : event.key === "-" ? 1 / 1.15 : null;
  if (turn) {
    const out = new three.Spherical().setFromVector3(
      camera.position
        .clone()
        .sub(controls.target)
        .applyAxisAngle(new three.Vector3(1, 0, 0), -Math.PI / 2),
    );
    out.theta += turn[0];
    out.phi = Math.min(Math.max(out.phi + turn[1], 0.02), Math.PI - 0.02);
    camera.position
      .setFromSpherical(out)
      .applyAxisAngle(new three.Vector3(1, 0, 0), Math.PI / 2)
      .add(controls.target);
    controls.update();
  } else if (nearer !== null) {
    camera.zoom *= nearer;
    camera.updateProjectionMatrix();
  } else return;
  event.preventDefault();
  draw();
}
