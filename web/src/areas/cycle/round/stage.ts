/** The stage that solids stand on: its light, its camera, how it is turned by hand and by keys, and what is pressed. */

import * as three from "three";
import { OrbitControls } from "three/examples/jsm/controls/OrbitControls.js";

import type { Named } from "./bodies";
import { FINISH, outlineMm } from "./ink";

/** From where it is looked at, as a direction out of its middle. */
export const VIEWS = {
  corner: ["From the corner", [0.62, 0.9, 0.5]],
  side: ["Side", [0, 1, 0.0001]],
  rear: ["Rear", [-1, 0, 0.0001]],
  top: ["Top", [-0.0001, 0, 1]],
  under: ["From below", [0.4, 0.6, -0.7]],
} as const;
export type ViewName = keyof typeof VIEWS;

export interface Stage {
  scene: three.Scene;
  camera: three.OrthographicCamera;
  controls: OrbitControls;
  /** What stays with the frame, what the axle carries, what swings between, and the floor under it all. */
  frame: three.Group;
  axle: three.Group;
  swinging: three.Group;
  floor: three.Group;
  named: Named[];
  draw: () => void;
}

const FAR_MM = 20_000;
const STEP = 0.12;
const OUTLINE_PX = 1.5;
/** A frame that takes longer than this is too slow to turn by: while it is turned, less is drawn. */
const SLOW_MS = 40;
const STILL_MS = 180;
/** While it turns on a machine that draws slowly: so much of the screen's resolution. */
const COARSE = 0.5;
/** Once it stands still, drawn so much finer than the screen, instead of smoothing each frame. */
const FINE = 2;

export function staged(box: HTMLDivElement, pick: (id: string) => void): [Stage, () => void] {
  const renderer = new three.WebGLRenderer({ alpha: true, stencil: true });
  const scene = new three.Scene();
  const camera = new three.OrthographicCamera(-1, 1, 1, -1, 1, 2 * FAR_MM);
  camera.up.set(0, 0, 1);
  const lamp = new three.DirectionalLight(0xffffff, 1.5);
  lamp.position.set(0.35, 0.55, 1);
  scene.add(new three.AmbientLight(0xffffff, 1.9), lamp);
  const [frame, axle, swinging, floor] = [0, 1, 2, 3].map(() => new three.Group()) as [
    three.Group, three.Group, three.Group, three.Group,
  ]; // prettier-ignore
  axle.matrixAutoUpdate = false;
  scene.add(floor, frame, axle, swinging);
  box.append(renderer.domElement);
  const controls = new OrbitControls(camera, renderer.domElement);
  const [draw, drop] = drawing(renderer, scene, camera, box);
  controls.addEventListener("change", draw);
  const fit = () => {
    const { clientWidth: w, clientHeight: h } = box;
    if (w === 0 || h === 0) return;
    renderer.setSize(w, h, false);
    camera.left = (-camera.top * w) / h;
    camera.right = (camera.top * w) / h;
    camera.updateProjectionMatrix();
    draw();
  };
  const seen = new ResizeObserver(fit);
  seen.observe(box);
  const made: Stage = { scene, camera, controls, frame, axle, swinging, floor, named: [], draw };
  const letGo = pressing(box, made, pick);
  const keys = (event: KeyboardEvent) => turned(event, made);
  box.addEventListener("keydown", keys);
  return [
    made,
    () => {
      seen.disconnect();
      drop();
      letGo();
      box.removeEventListener("keydown", keys);
      controls.dispose();
      renderer.dispose();
      renderer.domElement.remove();
    },
  ];
}

/** Draws at once, as finely as this machine can while it turns, and in full once nothing has moved for a moment. */
function drawing(
  renderer: three.WebGLRenderer,
  scene: three.Scene,
  camera: three.OrthographicCamera,
  box: HTMLDivElement,
): [() => void, () => void] {
  const gl = renderer.getContext();
  const pixel = new Uint8Array(4);
  let [took, later] = [0, 0];
  const render = (ratio: number, whole: boolean) => {
    const start = performance.now();
    if (renderer.getPixelRatio() !== ratio) renderer.setPixelRatio(ratio);
    camera.layers.set(0);
    if (whole) camera.layers.enable(FINISH);
    outlineMm.value = (OUTLINE_PX * (camera.top - camera.bottom)) / camera.zoom / (box.clientHeight || 1);
    renderer.render(scene, camera);
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, pixel); // it is drawn when a pixel of it can be read
    return performance.now() - start;
  };
  const still = () => {
    const quick = took < SLOW_MS;
    render(window.devicePixelRatio * (quick ? FINE : 1.5), true);
  };
  const draw = () => {
    const slow = took > SLOW_MS;
    const now = render(window.devicePixelRatio * (slow ? COARSE : 1), !slow);
    if (!slow) took = now;
    window.clearTimeout(later);
    later = window.setTimeout(still, STILL_MS);
  };
  return [draw, () => window.clearTimeout(later)];
}

const STILL_PX = 4;

/** A press that does not turn it chooses the part under it. */
function pressing(box: HTMLDivElement, stage: Stage, pick: (id: string) => void): () => void {
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
    ray.setFromCamera(at, stage.camera);
    const [first] = ray.intersectObjects(
      stage.named.map(({ mesh }) => mesh),
      false,
    );
    const found = stage.named.find(({ mesh }) => mesh === first?.object);
    if (found) pick(found.id);
  };
  box.addEventListener("pointerdown", down);
  box.addEventListener("pointerup", up);
  return () => {
    box.removeEventListener("pointerdown", down);
    box.removeEventListener("pointerup", up);
  };
}

/** Room left about what is shown, of its size. */
const AROUND = 1.06;

/** Put the camera out along a view's direction, the axle and its links filling the stage. */
export function aim(stage: Stage, view: ViewName): void {
  const { camera, controls, draw } = stage;
  const [, [x, y, z]] = VIEWS[view];
  const box = new three.Box3()
    .setFromObject(stage.axle)
    .union(new three.Box3().setFromObject(stage.swinging));
  if (box.isEmpty()) return;
  const middle = box.getCenter(new three.Vector3());
  camera.position.copy(middle).add(new three.Vector3(x, y, z).normalize().multiplyScalar(FAR_MM / 2));
  camera.zoom = 1;
  camera.lookAt(middle);
  camera.updateMatrixWorld();
  const ratio = camera.right / (camera.top || 1) || 1;
  const seen = new three.Box3();
  for (const group of [stage.axle, stage.swinging]) group.traverse((one) => seeAll(one, camera, seen));
  const size = seen.getSize(new three.Vector3());
  camera.top = (AROUND * Math.max(size.y, size.x / ratio)) / 2;
  const off = seen.getCenter(new three.Vector3()).setZ(0).applyQuaternion(camera.quaternion);
  camera.position.add(off);
  middle.add(off);
  camera.bottom = -camera.top;
  camera.right = camera.top * ratio;
  camera.left = -camera.right;
  camera.updateProjectionMatrix();
  controls.target.copy(middle);
  controls.update();
  draw();
}

/** Every few corners of a mesh, as the camera sees them. */
function seeAll(one: three.Object3D, camera: three.Camera, seen: three.Box3): void {
  if (!(one instanceof three.Mesh)) return;
  const corners = (one as three.Mesh).geometry.getAttribute("position");
  const at = new three.Vector3();
  for (let n = 0; n < corners.count; n += 5)
    seen.expandByPoint(camera.worldToLocal(one.localToWorld(at.fromBufferAttribute(corners, n))));
}

/** Turned and brought nearer by keys. */
function turned(event: KeyboardEvent, { camera, controls, draw }: Stage): void {
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
    controls.update(); // which draws
  } else if (nearer !== null) {
    camera.zoom *= nearer;
    camera.updateProjectionMatrix();
    draw();
  } else return;
  event.preventDefault();
}
