/** The axle, its links and what is round it as solids: meshes of chassis points, x forward, y left, z up, mm. */

import * as three from "three";
import { ConvexGeometry } from "three/examples/jsm/geometries/ConvexGeometry.js";

import { bodiesOf, type Document, type Point } from "../../document/document";
import { inPrism, type Solid, turnOf } from "../../document/solids";
import type { Standing } from "../../floor/geometry";

/** What a mesh is, for who picks it: the id of a part or keep-out. */
export interface Named {
  id: string;
  sort: "part" | "tire" | "axle" | "keep-out";
  mesh: three.Mesh;
}

const vector = (p: readonly number[]) => new three.Vector3(p[0], p[1], p[2]);
const UP = new three.Vector3(0, 1, 0);

/** A round bar from one point to another. */
export function bar(
  a: readonly number[],
  b: readonly number[],
  radius: number,
  material: three.Material,
): three.Mesh {
  const [from, to] = [vector(a), vector(b)];
  const along = to.clone().sub(from);
  const long = along.length();
  const mesh = new three.Mesh(new three.CylinderGeometry(radius, radius, long, 40), material);
  mesh.position.copy(from.add(to).multiplyScalar(0.5));
  if (long > 0) mesh.quaternion.setFromUnitVectors(UP, along.divideScalar(long));
  return mesh;
}

export interface Materials {
  link: three.Material;
  chosen: three.Material;
  marked: three.Material;
  steel: three.Material;
  rubber: three.Material;
  out: three.Material;
}

interface Given {
  document: Document;
  standing: Standing;
  chosen: string | null;
  marked: readonly string[];
  use: Materials;
}

/** Every solid where it stands now. */
export function solidsOf(given: Given): Named[] {
  return [...partsOf(given), ...axleOf(given), ...keepOutsOf(given)];
}

function partsOf({ document, standing, chosen, marked, use }: Given): Named[] {
  return bodiesOf(document).flatMap((body): Named[] => {
    const material = body.id === chosen ? use.chosen : marked.includes(body.id) ? use.marked : use.link;
    const bends =
      (document.links.find((link) => link.id === body.id)?.tube as { bends?: Point[] } | null)?.bends ?? [];
    const path = [
      standing.end(body.a),
      ...bends.map((bend) => standing.place(body.id, bend)),
      standing.end(body.b),
    ];
    return path.slice(1).map((to, n) => ({
      id: body.id,
      sort: "part" as const,
      mesh: bar(path[n]!, to, Math.max(body.diameter / 2, 6), material),
    }));
  });
}

function axleOf({ document, standing, use }: Given): Named[] {
  const { axle } = document;
  const z = axle.tire_radius_loaded;
  const at = (p: readonly number[]) => standing.place("axle", p as Point);
  const half = (axle.track - axle.tire_width) / 2;
  const ball = new three.Mesh(
    new three.SphereGeometry((axle.housing?.diameter ?? 3.2 * axle.tube_diameter) / 2, 24, 16),
    use.steel,
  );
  ball.position.copy(vector(at(axle.housing?.at ?? [0, axle.pinion.joint[1], z])));
  const named = (mesh: three.Mesh): Named => ({ id: "axle", sort: "axle", mesh });
  const tires = [1, -1].map((hand): Named => {
    const middle = (hand * axle.track) / 2;
    const ends = [middle - axle.tire_width / 2, middle + axle.tire_width / 2].map((y) => at([0, y, z]));
    return {
      id: hand > 0 ? "tire-left" : "tire-right",
      sort: "tire",
      mesh: bar(ends[0]!, ends[1]!, axle.tire_diameter / 2, use.rubber),
    };
  });
  return [
    named(bar(at([0, half, z]), at([0, -half, z]), axle.tube_diameter / 2, use.steel)),
    named(ball),
    named(bar(at([0, axle.pinion.joint[1], z]), at(axle.pinion.joint), axle.tube_diameter / 2.4, use.steel)),
    ...tires,
  ];
}

function keepOutsOf({ document, standing, use }: Given): Named[] {
  return (document.room?.keep_outs ?? []).flatMap(({ id, on, solid }): Named[] =>
    keepOut(solid, (p) => standing.place(on, p), use.out).map((mesh) => ({ id, sort: "keep-out", mesh })),
  );
}

function keepOut(solid: Solid, place: (p: Point) => Point, material: three.Material): three.Mesh[] {
  if (solid.kind === "tube")
    return solid.path
      .slice(1)
      .map((to, n) => bar(place(solid.path[n]! as Point), place(to as Point), solid.diameter / 2, material));
  if (solid.kind === "prism") return [prism(solid, place, material)];
  const points = solid.kind === "box" ? boxCorners(solid) : solid.points;
  return [new three.Mesh(new ConvexGeometry(points.map((p) => vector(place(p as Point)))), material)];
}

/** A box's eight corners, turned about its middle as the file says: about x, then y, then z. */
function boxCorners(box: Extract<Solid, { kind: "box" }>): number[][] {
  const [x, y, z] = turnOf(box).map((v) => (v * Math.PI) / 180) as [number, number, number];
  const turn = new three.Euler(x, y, z, "ZYX");
  const signs = [-0.5, 0.5];
  return signs.flatMap((a) =>
    signs.flatMap((b) =>
      signs.map((c) =>
        new three.Vector3(a * box.size[0], b * box.size[1], c * box.size[2])
          .applyEuler(turn)
          .add(vector(box.center))
          .toArray(),
      ),
    ),
  );
}

/** An outline drawn out: its two ends and the walls between them, concave ones too. */
function prism(
  solid: Extract<Solid, { kind: "prism" }>,
  place: (p: Point) => Point,
  material: three.Material,
): three.Mesh {
  const outline = solid.outline.map(([u, v]) => new three.Vector2(u, v));
  const faces = three.ShapeUtils.triangulateShape(outline, []);
  const at = (n: number, end: number) => place(inPrism(solid, solid.outline[n]!, end));
  const corners: Point[] = [];
  for (const end of [solid.from, solid.to])
    for (const face of faces) for (const n of face) corners.push(at(n, end));
  outline.forEach((_, n) => {
    const next = (n + 1) % outline.length;
    const [a, b, c, d] = [at(n, solid.from), at(next, solid.from), at(next, solid.to), at(n, solid.to)];
    corners.push(a, b, c, a, c, d);
  });
  const geometry = new three.BufferGeometry();
  geometry.setAttribute("position", new three.Float32BufferAttribute(corners.flat(), 3));
  geometry.computeVertexNormals();
  return new three.Mesh(geometry, material);
}
