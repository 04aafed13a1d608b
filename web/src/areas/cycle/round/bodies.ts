/** The axle, its links and what is round it as solids, in chassis points: what the axle carries, what the frame carries,
 * and what swings between the two. */

import * as three from "three";
import { ConvexGeometry } from "three/examples/jsm/geometries/ConvexGeometry.js";

import { sortOf } from "../../../document/corners";
import { boltAxis, type Document, type Point, spotsOf } from "../../../document/document";
import { bodiesOf, type Body } from "../../../document/parts";
import { inPrism, type Solid, turnOf } from "../../../document/solids";
import type { Standing } from "../../../floor/geometry";
import { onRail, railsOf } from "../../../floor/rails";
import { ghostly, inked, type Materials } from "./ink";
import { ball, bar, between, bracket, coil, eye, pipe, tire, vector } from "./shapes";

/** A mesh and the part that it is, for who picks it. */
export interface Named {
  id: string;
  mesh: three.Mesh;
}

export interface Shown {
  document: Document;
  chosen: string | null;
  marked: readonly string[];
  use: Materials;
}

const paint = ({ chosen, marked, use }: Shown, id: string): three.Material =>
  id === chosen ? use.chosen : marked.includes(id) ? use.marked : use.link;

const LEAST_MM = 6;
const radiusOf = (body: Body) => Math.max(body.diameter / 2, LEAST_MM);

/** What swings: links, bars, struts and shocks with their joints, where they stand now. */
export function swinging(shown: Shown, standing: Standing): Named[] {
  return bodiesOf(shown.document).flatMap((body) =>
    swung(body, shown, standing).map((mesh) => ({ id: body.id, mesh })),
  );
}

function swung(body: Body, shown: Shown, standing: Standing): three.Mesh[] {
  const { document, use } = shown;
  const [a, b] = [standing.end(body.a), standing.end(body.b)];
  const [radius, material] = [radiusOf(body), paint(shown, body.id)];
  if (body.shape === "shock") return shock(body, shown, a, b);
  if (body.shape === "shoe") return [ball(a, 30, material, use)];
  if (body.shape === "strut") return [bar(a, b, radius * 0.8, material, use)];
  if (body.shape === "arm")
    return [
      ...body.a.of.map((bolt) => bar(standing.place(body.a.on, bolt), b, radius, material, use)),
      ...eyesOf(body, document, standing, radius, material, use),
    ];
  const bends =
    (document.links.find((link) => link.id === body.id)?.tube as { bends?: Point[] } | null)?.bends ?? [];
  const path = [a, ...bends.map((bend) => standing.place(body.id, bend)), b];
  return [
    ...path.slice(1).map((to, n) => bar(path[n]!, to, radius, material, use)),
    ...eyesOf(body, document, standing, radius, material, use),
  ];
}

function eyesOf(
  body: Body,
  document: Document,
  standing: Standing,
  radius: number,
  material: three.Material,
  use: Materials,
): three.Mesh[] {
  return spotsOf(document)
    .filter((spot) => spot.part === body.id || spot.name === body.a.name || spot.name === body.b.name)
    .flatMap((spot) => {
      const [at, bolt] = [spot.at, boltAxis(document, spot)];
      const tip = standing.place(spot.on, at.map((v, i) => v + bolt[i]!) as Point);
      const here = standing.place(spot.on, at);
      return eye(here, tip.map((v, i) => v - here[i]!), radius * 1.3, material, use); // prettier-ignore
    });
}

/** Of a shock's length: where its body ends, and where its coil sits at either end. */
const [BODY, SEAT, PERCH] = [0.56, 0.12, 0.8];
const COILS = 9;
/** A coil stands so far off the body that it is round, mm. */
const OFF_MM = 14;

function shock(body: Body, shown: Shown, a: Point, b: Point): three.Mesh[] {
  const { document, use } = shown;
  const given = document.corners?.shocks.find((one) => one.id === body.id);
  const [radius, material] = [radiusOf(body), paint(shown, body.id)];
  const sort = given ? sortOf(given) : "damper";
  if (sort === "coil") return [coil(a, b, radius, COILS, material, use)];
  if (sort === "air") return [bar(a, b, radius, use.rubber, use)];
  const out = between(b, a, BODY);
  const made = [
    bar(b, out, radius * 0.72, material, use),
    bar(out, a, radius * 0.28, use.steel, use),
    ...eye(a, [0, 1, 0], radius * 0.55, material, use),
    ...eye(b, [0, 1, 0], radius * 0.55, material, use),
  ];
  if (sort !== "coilover") return made;
  const [low, high] = [between(a, b, SEAT), between(a, b, PERCH)];
  const wide = radius * 0.72 + OFF_MM;
  const seat = (at: readonly number[], by: number) =>
    bar(at, between(at, by > 0 ? b : a, 0.012), wide * 1.12, use.steel, use);
  return [...made, coil(low, high, wide, COILS, use.spring, use), seat(low, -1), seat(high, 1)];
}

/** What the axle carries, as it stands at ride: housing, pinion, wheels, brackets, and what is in the way on it. */
export function onAxle(shown: Shown): three.Object3D[] {
  const { document, use } = shown;
  const { axle } = document;
  const z = axle.tire_radius_loaded;
  const half = (axle.track - axle.tire_width) / 2;
  const middle = axle.housing?.at ?? [0, axle.pinion.joint[1], z];
  const round = (axle.housing?.diameter ?? 3.2 * axle.tube_diameter) / 2;
  const nose = between(middle, axle.pinion.joint, 0.92);
  const hands = [1, -1] as const;
  return [
    bar([0, half, z], [0, -half, z], axle.tube_diameter / 2, use.steel, use),
    ball(middle, round, use.steel, use),
    bar(middle, nose, round * 0.72, use.steel, use, axle.tube_diameter * 0.42),
    bar(nose, axle.pinion.joint, 38, use.steel, use),
    ...hands.map((hand) =>
      bar([0, hand * (half - 26), z], [0, hand * half, z], axle.tube_diameter * 0.95, use.steel, use),
    ),
    ...hands.flatMap((hand) =>
      tire(
        [0, (hand * axle.track) / 2, z],
        { radius: axle.tire_diameter / 2, width: axle.tire_width, hand },
        use,
      ),
    ),
    ...brackets(shown, "axle"),
    ...standingIn(shown, "axle"),
  ];
}

/** What the frame carries: brackets, rails where the file has no shapes of them, and what is in the way. */
export const onFrame = (shown: Shown): three.Object3D[] => [
  ...brackets(shown, "frame"),
  ...rails(shown),
  ...standingIn(shown, "frame"),
];

const WALL_MM = 6;

/** Channels, open to the middle. */
function rails({ document, use }: Shown): three.Object3D[] {
  const shaped = document.room?.keep_outs.some(({ on, solid }) => on === "frame" && solid.kind === "prism");
  if (shaped) return [];
  const { outside, depth, flange, underside, from, until } = railsOf(document);
  return [1, -1].map((hand) => {
    const [web, lip] = [(hand * outside) / 2, hand * (outside / 2 - flange)];
    const inner = web - hand * WALL_MM;
    const [low, high] = [underside, underside + depth];
    const outline: [number, number][] = [
      [web, low], [lip, low], [lip, low + WALL_MM], [inner, low + WALL_MM],
      [inner, high - WALL_MM], [lip, high - WALL_MM], [lip, high], [web, high],
    ]; // prettier-ignore
    return ghostly(prism({ kind: "prism", along: "x", outline, from, to: until }), use.through, use);
  });
}

function brackets({ document, use }: Shown, on: string): three.Mesh[] {
  const bars = new Map(
    bodiesOf(document).flatMap((b) => (b.shape === "link" || b.shape === "arm" ? [[b.id, b] as const] : [])),
  );
  const radius = document.axle.tire_radius_loaded;
  return spotsOf(document)
    .filter((spot) => spot.on === on && spot.holds && bars.has(spot.part))
    .flatMap((spot) => {
      const steel = on === "axle" ? [0, spot.at[1], radius] : onRail(spot.at, railsOf(document));
      const link = bars.get(spot.part)!;
      const other = (on === "axle" ? link.b : link.a).at;
      return bracket(spot.at, steel, other, boltAxis(document, spot), radiusOf(link) * 1.3, use);
    });
}

function standingIn({ document, use }: Shown, on: string): three.Object3D[] {
  return (document.room?.keep_outs ?? [])
    .filter((one) => one.on === on)
    .flatMap(({ solid }) => {
      if (solid.kind === "tube")
        return solid.path
          .slice(1)
          .map((to, n) => pipe(solid.path[n]!, to, solid.diameter / 2, use.through, use));
      if (on === "axle") return [inked(shapeOf(solid), use.steel, use, false)];
      return [ghostly(shapeOf(solid), solid.kind === "prism" ? use.through : use.fainter, use)];
    });
}

function shapeOf(solid: Exclude<Solid, { kind: "tube" }>): three.BufferGeometry {
  if (solid.kind === "prism") return prism(solid);
  const points = solid.kind === "box" ? boxCorners(solid) : solid.points;
  return new ConvexGeometry(points.map((p) => vector(p)));
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
function prism(solid: Extract<Solid, { kind: "prism" }>): three.BufferGeometry {
  const outline = solid.outline.map(([u, v]) => new three.Vector2(u, v));
  const faces = three.ShapeUtils.triangulateShape(outline, []);
  const at = (n: number, end: number) => inPrism(solid, solid.outline[n]!, end);
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
  return geometry;
}
