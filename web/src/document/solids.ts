/** Solids of the room: what of them can be taken hold of, moved, mirrored; their points typed. mm, chassis axes, at ride. */

import type { ChassisPoint as Point } from "../units/brands";
import { readLength, lengthFigure, type Units } from "../units/tape";
import type { Document } from "./parts";

type Room = NonNullable<Document["room"]>;
export type Solid = Room["keep_outs"][number]["solid"];
export type Region = Room["zones"][number]["region"];
type Three = [number, number, number];
type Two = [number, number];
type Axis = 0 | 1 | 2;

type Box = Extract<Region, { kind: "box" }>;

/** How a box is turned; a file that says nothing of it leaves it upright. */
export const turnOf = (box: Box): Three => (box as Partial<Box>).turn ?? [0, 0, 0];

const AXIS = { x: 0, y: 1, z: 2 } as const;
const LEAST_MM = 1;

/** Something of a solid to take hold of: where it is, what it is, and the solid once it is moved by so much. */
export interface Grip {
  key: string;
  at: Point;
  words: string;
  /** Along which axes moving it does something. */
  free: readonly Axis[];
  moved: (by: Point) => Region;
}

const add = (at: readonly number[], by: readonly number[]): Three => [
  at[0]! + by[0]!, at[1]! + by[1]!, at[2]! + by[2]!,
]; // prettier-ignore
const swapped = <T>(list: readonly T[], n: number, one: T): T[] =>
  list.map((old, i) => (i === n ? one : old));
const middle = (points: readonly (readonly number[])[]): Three =>
  [0, 1, 2].map((i) => {
    const values = points.map((p) => p[i]!);
    return (Math.min(...values) + Math.max(...values)) / 2;
  }) as Three;

/** The two axes of a prism's outline, in the file's order. */
const flatAxes = (along: "x" | "y" | "z"): [Axis, Axis] =>
  ([0, 1, 2] as Axis[]).filter((i) => i !== AXIS[along]) as [Axis, Axis];

/** Every corner or middle by which a solid is known: what a view of all of it has to hold. */
export function pointsOf(solid: Region): Point[] {
  if (solid.kind === "tube") return solid.path;
  if (solid.kind === "hull") return solid.points;
  if (solid.kind === "holes") return solid.at;
  if (solid.kind === "prism")
    return [solid.from, solid.to].flatMap((at) => solid.outline.map((corner) => inPrism(solid, corner, at)));
  const half = Math.hypot(...solid.size) / 2;
  const straight = turnOf(solid).every((v) => v === 0);
  const reach = straight ? solid.size.map((v) => v / 2) : [half, half, half];
  return [-1, 1].map((way) => solid.center.map((v, i) => v + way * reach[i]!) as unknown as Point);
}

export function inPrism(
  { along }: Extract<Solid, { kind: "prism" }>,
  corner: readonly number[],
  at: number,
): Point {
  const point = [...corner];
  point.splice(AXIS[along], 0, at);
  return point as unknown as Point;
}

export const middleOf = (solid: Region): Point => middle(pointsOf(solid));

/** The solid somewhere else. */
export function movedSolid<S extends Region>(solid: S, by: readonly number[]): S;
export function movedSolid(solid: Region, by: readonly number[]): Region {
  if (solid.kind === "box") return { ...solid, center: add(solid.center, by) };
  if (solid.kind === "tube") return { ...solid, path: solid.path.map((p) => add(p, by)) };
  if (solid.kind === "hull") return { ...solid, points: solid.points.map((p) => add(p, by)) };
  if (solid.kind === "holes") return { ...solid, at: solid.at.map((p) => add(p, by)) };
  const [a, b] = flatAxes(solid.along);
  const end = by[AXIS[solid.along]]!;
  return {
    ...solid,
    from: solid.from + end,
    to: solid.to + end,
    outline: solid.outline.map(([p, q]) => [p + by[a]!, q + by[b]!] as Two),
  };
}

/** A point turned about x, y, z (degrees, Rz·Ry·Rx) about another. */
function turnedPoint(
  point: readonly number[],
  [x, y, z]: readonly number[],
  about: readonly number[],
): Three {
  const [cx, sx] = circle(x!);
  const [cy, sy] = circle(y!);
  const [cz, sz] = circle(z!);
  const [a, b, c] = point.map((v, i) => v - about[i]!) as Three;
  const [b1, c1] = [b * cx - c * sx, b * sx + c * cx];
  const [a2, c2] = [a * cy + c1 * sy, -a * sy + c1 * cy];
  return add([a2 * cz - b1 * sz, a2 * sz + b1 * cz, c2], about);
}

const circle = (degrees: number): [number, number] => {
  const angle = (degrees * Math.PI) / 180;
  return [Math.cos(angle), Math.sin(angle)];
};

/** About which axes shapes can be turned and stay what they are: an outline drawn out only in its own plane. */
export function turnable(solids: readonly Solid[]): [boolean, boolean, boolean] {
  const free = [0, 1, 2].map((axis) =>
    solids.every((one) => one.kind !== "prism" || AXIS[one.along] === axis),
  );
  return free as [boolean, boolean, boolean];
}

/** A shape of a file turned (degrees about x, y, z) about a point; an outline drawn out only about its own axis. */
export function turnedSolid(solid: Solid, turn: readonly number[], about: readonly number[]): Solid {
  if (solid.kind === "hull")
    return { ...solid, points: solid.points.map((p) => turnedPoint(p, turn, about)) };
  if (solid.kind !== "prism") return solid;
  const axis = AXIS[solid.along];
  const own = [0, 0, 0].map((_, i) => (i === axis ? turn[i]! : 0));
  const [a, b] = flatAxes(solid.along);
  const outline = solid.outline.map((corner) => {
    const there = turnedPoint(inPrism(solid, corner, solid.from), own, about);
    return [there[a], there[b]] as Two;
  });
  return { ...solid, outline };
}

/** Its mirror image across the truck's centerline. */
export function mirroredSolid<S extends Region>(solid: S): S;
export function mirroredSolid(solid: Region): Region {
  const over = (p: readonly number[]): Three => [p[0]!, -p[1]!, p[2]!];
  if (solid.kind === "tube") return { ...solid, path: solid.path.map(over) };
  if (solid.kind === "hull") return { ...solid, points: solid.points.map(over) };
  if (solid.kind === "holes") return { ...solid, at: solid.at.map(over) };
  if (solid.kind === "box") {
    const [x, y, z] = turnOf(solid);
    return { ...solid, center: over(solid.center), turn: [-x || 0, y, -z || 0] };
  }
  if (solid.along === "y") return { ...solid, from: -solid.to, to: -solid.from };
  const side = flatAxes(solid.along).indexOf(1);
  return { ...solid, outline: solid.outline.map((c) => c.map((v, i) => (i === side ? -v : v)) as Two) };
}

/** What can be taken hold of: all of it by its middle, and each corner, face, end or hole. */
export function gripsOf(solid: Region): Grip[] {
  const whole: Grip = {
    key: "whole", at: middleOf(solid), words: "all of it", free: [0, 1, 2], moved: (by) => movedSolid(solid, by),
  }; // prettier-ignore
  // the whole comes last, on top: of something small its parts would cover it
  return [...partsOf(solid), ...(solid.kind === "holes" && solid.at.length === 1 ? [] : [whole])];
}

function partsOf(solid: Region): Grip[] {
  if (solid.kind === "box") return turnOf(solid).every((v) => v === 0) ? facesOf(solid) : [];
  if (solid.kind === "prism") return prismGrips(solid);
  if (solid.kind === "hull") return [];
  const points: readonly Three[] = solid.kind === "tube" ? solid.path : solid.at;
  const put = (list: Three[]): Region =>
    solid.kind === "tube" ? { ...solid, path: list } : { ...solid, at: list };
  return points.map((p, n) => ({
    key: `${n}`,
    at: p,
    words: solid.kind === "tube" ? `point ${n + 1} of its path` : `hole ${n + 1}`,
    free: [0, 1, 2],
    moved: (by) => put(swapped(points, n, add(p, by))),
  }));
}

const FACES = [
  ["front", "rear"],
  ["left", "right"],
  ["top", "bottom"],
] as const;

/** Each face of an upright box: pulled, it takes the box's size with it, the opposite face staying. */
function facesOf(box: Box): Grip[] {
  return ([0, 1, 2] as Axis[]).flatMap((axis) =>
    ([1, -1] as const).map((way) => {
      const at = [...box.center] as Three;
      at[axis] += (way * box.size[axis]) / 2;
      return {
        key: `${axis} ${way}`,
        at: at,
        words: `its ${FACES[axis][way > 0 ? 0 : 1]}`,
        free: [axis],
        moved: (by: Point): Region => {
          const long = Math.max(box.size[axis] + way * by[axis], LEAST_MM);
          const center = [...box.center] as Three;
          center[axis] += (way * (long - box.size[axis])) / 2;
          return { ...box, center, size: swapped(box.size, axis, long) as Three };
        },
      };
    }),
  );
}

function prismGrips(prism: Extract<Solid, { kind: "prism" }>): Grip[] {
  const axis = AXIS[prism.along];
  const [a, b] = flatAxes(prism.along);
  const mid = (prism.from + prism.to) / 2;
  const corners = prism.outline.map((corner, n): Grip => ({
    key: `${n}`,
    at: inPrism(prism, corner, mid),
    words: `corner ${n + 1}`,
    free: [a, b],
    moved: (by) => ({ ...prism, outline: swapped(prism.outline, n, [corner[0] + by[a], corner[1] + by[b]]) }),
  })); // prettier-ignore
  const heart = [...middle(prism.outline.map((c) => inPrism(prism, c, mid)))];
  const ends = ([1, -1] as const).map((way): Grip => {
    const at = [...heart] as Three;
    at[axis] = way > 0 ? prism.to : prism.from;
    return {
      key: way > 0 ? "to" : "from",
      at: at,
      words: `its ${FACES[axis][way > 0 ? 0 : 1]}`,
      free: [axis],
      moved: (by) =>
        way > 0
          ? { ...prism, to: Math.max(prism.to + by[axis], prism.from + LEAST_MM) }
          : { ...prism, from: Math.min(prism.from + by[axis], prism.to - LEAST_MM) },
    };
  });
  return [...ends, ...corners];
}

/** Points as lines of text, a point a line: `ahead, left, off the floor`; of an outline its two axes. */
export const pointsText = (points: readonly (readonly number[])[], units: Units): string =>
  points.map((p) => p.map((v) => lengthFigure(v, units)).join(", ")).join("\n");

/**
 * Points read back from such text, `count` figures a line, parted by commas, semicolons or tabs; or what can't be read,
 * with its line. A figure that says what stood there at its place, as it was shown, stays exactly what it was.
 */
export function readPoints(
  text: string,
  count: 2 | 3,
  units: Units,
  was: readonly (readonly number[])[] = [],
): number[][] | string {
  const lines = text.split("\n").map((line) => line.trim());
  const read: number[][] = [];
  for (const [n, line] of lines.entries()) {
    if (line === "") continue;
    const parts = line.split(/\s*[,;\t]\s*/);
    if (parts.length !== count) return `Line ${n + 1}: ${count} figures belong on a line, parted by commas.`;
    const point: number[] = [];
    for (const [i, part] of parts.entries()) {
      const stood = was[read.length]?.[i];
      const mm = stood !== undefined && lengthFigure(stood, units) === part ? stood : readLength(part, units);
      if (typeof mm === "string") return `Line ${n + 1}: ${mm}`;
      point.push(mm);
    }
    read.push(point);
  }
  return read;
}
