/** The shapes that parts are made of: bars, eyes, coils, tires, brackets. mm, chassis axes: x ahead, y left, z up. */

import * as three from "three";

import { ghostly, inked, type Materials, outlined } from "./ink";

type At = readonly number[];

export const vector = (p: At) => new three.Vector3(p[0], p[1], p[2]);
const UP = new three.Vector3(0, 1, 0);
const SIDES = 18;

/** Put a shape that stands along y on the way from one point to another, its middle halfway. */
function along(mesh: three.Mesh, a: At, b: At): three.Mesh {
  const [from, to] = [vector(a), vector(b)];
  const way = to.clone().sub(from);
  mesh.position.copy(from.add(to).multiplyScalar(0.5));
  if (way.lengthSq() > 0) mesh.quaternion.setFromUnitVectors(UP, way.normalize());
  return mesh;
}

export const between = (a: At, b: At, part: number): number[] => a.map((v, i) => v + (b[i]! - v) * part);
const apart = (a: At, b: At) => Math.hypot(...a.map((v, i) => b[i]! - v));

/** A round bar from one point to another; `end`: its radius at the other. */
export function bar(a: At, b: At, radius: number, material: three.Material, use: Materials, end = radius): three.Mesh {
  return along(inked(new three.CylinderGeometry(end, radius, apart(a, b), SIDES), material, use), a, b);
} // prettier-ignore

/** The same for what stands in the way: seen through. */
export const pipe = (a: At, b: At, radius: number, material: three.Material, use: Materials): three.Mesh =>
  along(ghostly(new three.CylinderGeometry(radius, radius, apart(a, b), SIDES), material, use), a, b);

export function ball(at: At, radius: number, material: three.Material, use: Materials): three.Mesh {
  const mesh = inked(new three.SphereGeometry(radius, 24, 14), material, use);
  mesh.position.copy(vector(at));
  return mesh;
}

const EYE_WIDE_MM = 54;
const BOLT_OUT_MM = 24;

/** A joint: its eye across the bolt, and the bolt through it. */
export function eye(at: At, bolt: At, radius: number, material: three.Material, use: Materials): three.Mesh[] {
  const out = (by: number) => [by, -by].map((v) => at.map((p, i) => p + bolt[i]! * v)) as [number[], number[]];
  const half = Math.min(EYE_WIDE_MM / 2, radius * 1.5);
  return [
    bar(...out(half), radius, material, use),
    bar(...out(half + BOLT_OUT_MM), Math.max(radius * 0.32, 7), use.steel, use),
  ];
} // prettier-ignore

const PLATE_MM = 7;

/** A bracket: two plates either side of an eye, from it to the steel it is welded to; where that stands beside the eye,
 * away from the link that comes `from` the other way. */
export function bracket(at: At, steel: At, from: At, bolt: At, radius: number, use: Materials): three.Mesh[] {
  const across = vector(bolt).normalize();
  const square = (to: At) => {
    const way = vector(to).sub(vector(at));
    return way.addScaledVector(across, -way.dot(across)); // a plate stands square to the bolt
  };
  let way = square(steel);
  if (way.length() < 2 * radius) way = square(from).normalize().multiplyScalar(-3 * radius);
  const long = way.length();
  const shape = new three.Shape();
  shape.absarc(0, 0, radius * 1.25, Math.PI / 2, (3 * Math.PI) / 2);
  shape.lineTo(long, -radius * 1.7);
  shape.lineTo(long, radius * 1.7);
  const geometry = new three.ExtrudeGeometry(shape, { depth: PLATE_MM, bevelEnabled: false, curveSegments: 8 });
  const turn = new three.Matrix4().makeBasis(way.normalize(), across.clone().cross(way), across);
  const half = Math.min(EYE_WIDE_MM / 2, radius * 1.5) + 2;
  return [half, -half - PLATE_MM].map((out) => {
    const mesh = inked(geometry, use.steel, use, false);
    mesh.quaternion.setFromRotationMatrix(turn);
    mesh.position.copy(vector(at)).addScaledVector(across, out);
    return mesh;
  });
} // prettier-ignore

class Helix extends three.Curve<three.Vector3> {
  constructor(
    private readonly radius: number,
    private readonly long: number,
    private readonly turns: number,
  ) {
    super();
  }
  override getPoint(t: number, into = new three.Vector3()): three.Vector3 {
    const angle = t * this.turns * 2 * Math.PI;
    return into.set(this.radius * Math.cos(angle), (t - 0.5) * this.long, this.radius * Math.sin(angle));
  }
}

/** A coil spring from seat to seat; as many turns however long it is pressed. */
export function coil(a: At, b: At, radius: number, turns: number, material: three.Material, use: Materials): three.Mesh {
  const wire = Math.max(radius * 0.13, 4);
  const curve = new Helix(radius, Math.max(apart(a, b) - 2 * wire, wire), turns);
  return along(outlined(new three.TubeGeometry(curve, Math.round(turns * 12), wire, 6), material, use), a, b);
} // prettier-ignore

/** A shape turned about its middle line across the truck, standing at `at`; `profile` of radius and how far left, mm. */
function turnedAbout(
  at: At,
  profile: readonly (readonly [number, number])[],
  material: three.Material,
  use: Materials,
) {
  const points = profile.map(([r, y]) => new three.Vector2(r, y));
  const mesh = inked(new three.LatheGeometry(points, 44), material, use);
  mesh.position.copy(vector(at));
  return mesh;
}

export interface TireSize {
  radius: number;
  width: number;
  /** +1 on the left: which way the wheel's face looks. */
  hand: 1 | -1;
}

const GROOVES = [-0.42, -0.14, 0.14, 0.42];
const LUGS = 44;

/** A tire with its grooves and lugs, and its wheel in it. */
export function tire(at: At, { radius: r, width, hand }: TireSize, use: Materials): three.Mesh[] {
  const half = width / 2;
  const crown = GROOVES.flatMap((part): [number, number][] => {
    const y = part * width;
    return [[r, y - 7], [r * 0.968, y - 5], [r * 0.968, y + 5], [r, y + 7]]; // prettier-ignore
  });
  const rubber = turnedAbout(
    at,
    [
      [r * 0.55, -half * 0.8], [r * 0.7, -half * 0.98], [r * 0.88, -half], [r * 0.965, -half * 0.96], [r * 0.995, -half * 0.9],
      ...crown,
      [r * 0.995, half * 0.9], [r * 0.965, half * 0.96], [r * 0.88, half], [r * 0.7, half * 0.98], [r * 0.55, half * 0.8],
    ],
    use.rubber, use,
  ); // prettier-ignore
  rubber.add(lugs(r, half, use));
  const face = 0.18 * half * hand;
  const wheel = turnedAbout(
    at,
    [
      [r * 0.57, -half * 0.8], [r * 0.53, -half * 0.78], [r * 0.5, -half * 0.3], [r * 0.49, face - 8], [r * 0.3, face - 8 + 14 * hand],
      [r * 0.16, face], [1, face], [1, face + 3], [r * 0.16, face + 3],
      [r * 0.3, face + 14 * hand + 3], [r * 0.5, face + 4], [r * 0.5, half * 0.3], [r * 0.53, half * 0.78], [r * 0.57, half * 0.8],
    ],
    use.rim, use,
  ); // prettier-ignore
  return [rubber, wheel, bar(...hubAt(at, half, hand), r * 0.11, use.steel, use)];
}

const hubAt = ([x, y, z]: At, half: number, hand: number): [number[], number[]] => [
  [x!, y! - 0.5 * half * hand, z!],
  [x!, y! + 0.42 * half * hand, z!],
];

/** The lugs of a tread, as the ink between them. */
function lugs(r: number, half: number, use: Materials): three.LineSegments {
  const points: three.Vector3[] = [];
  for (let n = 0; n < LUGS; n++)
    for (const side of [-1, 1]) {
      const [angle, on] = [((n + (side < 0 ? 0 : 0.5)) / LUGS) * 2 * Math.PI, r * 1.002];
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      points.push(new three.Vector3(on * s, side * half * 0.32, on * c));
      points.push(new three.Vector3(on * s, side * half * 0.88, on * c));
      points.push(new three.Vector3(on * s, side * half * 0.88, on * c));
      points.push(new three.Vector3(r * 0.9 * s, side * half * 1.002, r * 0.9 * c));
    }
  const lines = new three.LineSegments(new three.BufferGeometry().setFromPoints(points), use.ink);
  lines.raycast = () => undefined;
  return lines;
}
