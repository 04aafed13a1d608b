/** The shop's floor under the tires: a slab with the truck's centerline on it, a block under a wheel that stands higher,
 * and the shade of all that stands on it. */

import * as three from "three";
import { ShadowMesh } from "three/examples/jsm/objects/ShadowMesh.js";

import type { Document } from "../../../document/document";
import type { Standing } from "../../../floor/geometry";
import { FINISH, inked, type Materials } from "./ink";

const THICK_MM = 60;
const AROUND_MM = 520;
const [AHEAD_MM, BEHIND_MM] = [1350, 800];
/** Less than this between the two wheels, and no block is put under either. */
const LEVEL_MM = 8;
/** The lamp stands high, ahead and to the left. */
const LAMP = new three.Vector4(0.35, 0.3, 1, 0.0001);
const SHADE = 0.16;

/** Where the ground is under each wheel, left and right, mm. */
function under({ axle }: Document, standing: Standing): [number, number][] {
  const radius = axle.tire_radius_loaded;
  return [1, -1].map((hand) => {
    const [, y, z] = standing.place("axle", [0, (hand * axle.track) / 2, radius]);
    return [y, z - radius];
  });
}

/** The slab and what is put on it; and how high it stands. */
export function ground(document: Document, standing: Standing, use: Materials): [three.Object3D[], number] {
  const feet = under(document, standing);
  const level = Math.min(...feet.map(([, z]) => z));
  const toFront = document.axle.end === "rear" ? 1 : -1;
  const [front, back] = toFront > 0 ? [AHEAD_MM, BEHIND_MM] : [BEHIND_MM, AHEAD_MM];
  const wide = document.axle.track + document.axle.tire_width + 2 * AROUND_MM;
  const slab = inked(new three.BoxGeometry(front + back, wide, THICK_MM), use.floor, use, false);
  slab.position.set((front - back) / 2, 0, level - THICK_MM / 2);
  const blocks = feet
    .filter(([, z]) => z - level > LEVEL_MM)
    .map(([y, z]) => {
      const size = [
        1.1 * document.axle.tire_radius_loaded,
        document.axle.tire_width + 80,
        z - level,
      ] as const;
      const block = inked(new three.BoxGeometry(...size), use.rim, use, false);
      block.position.set(0, y, (z + level) / 2);
      return block;
    });
  return [[slab, ...blocks, lines(front, back, wide / 2, level, use), word(front, wide, level, use)], level];
}

/** The centerline in long and short dashes, and the axle's own line across it. */
function lines(front: number, back: number, half: number, level: number, use: Materials): three.LineSegments {
  const points: three.Vector3[] = [];
  const put = (x: number, y: number, to: number, toY: number) =>
    points.push(new three.Vector3(x, y, level + 1), new three.Vector3(to, toY, level + 1));
  for (let x = -back; x < front; x += 180) {
    put(x, 0, Math.min(x + 110, front), 0);
    put(Math.min(x + 135, front), 0, Math.min(x + 155, front), 0);
  }
  put(0, half, 0, half - 0.6 * AROUND_MM);
  put(0, -half, 0, -half + 0.6 * AROUND_MM);
  return new three.LineSegments(new three.BufferGeometry().setFromPoints(points), use.faint);
}

/** Which way the front is, painted on the floor. */
function word(front: number, wide: number, level: number, use: Materials): three.Mesh {
  const canvas = window.document.createElement("canvas");
  [canvas.width, canvas.height] = [512, 128];
  const pen = canvas.getContext("2d");
  if (pen) {
    pen.fillStyle = `#${use.ink.color.getHexString()}`;
    pen.font = "600 84px 'IBM Plex Sans Condensed', sans-serif";
    pen.textAlign = "center";
    pen.textBaseline = "middle";
    pen.fillText("◄ FRONT", 256, 64);
  }
  const map = new three.CanvasTexture(canvas);
  map.colorSpace = three.SRGBColorSpace;
  const flat = new three.Mesh(
    new three.PlaneGeometry(760, 190),
    new three.MeshBasicMaterial({ map, transparent: true, depthWrite: false }),
  );
  flat.rotation.z = Math.PI; // read from the left of the truck, as the side view is
  flat.position.set(front - 1000, wide / 2 - 150, level + 1.5);
  return flat;
}

/** The shade on the floor of what stands over it. */
export function shades(of: three.Object3D, level: number, use: Materials): three.Object3D[] {
  const plane = new three.Plane(new three.Vector3(0, 0, 1), level + 2); // the library takes it as a height along the normal
  const found: three.Object3D[] = [];
  of.traverse((one) => {
    if (!(one instanceof three.Mesh)) return;
    const mesh = one as three.Mesh<three.BufferGeometry, three.Material>;
    if (mesh.material === use.outline || mesh.material.transparent) return;
    const shade = new ShadowMesh(mesh);
    const ink = shade.material;
    ink.color.copy(use.shade);
    ink.opacity = SHADE;
    shade.layers.set(FINISH);
    shade.update(plane, LAMP);
    found.push(shade);
  });
  return found;
}
