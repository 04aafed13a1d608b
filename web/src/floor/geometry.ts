/** The floor's geometry: the axle's pose, and three views in projection. Chassis points are mm (ahead, left, up). */

import type { End } from "../document/parts";
import type { ChassisPoint as Point, Px, ScreenPoint } from "../units/brands";

/** x, y, z of the axle's center (mm), then roll, pitch, yaw and the bell crank's turn (radians). */
export type Pose = readonly number[];

export const ridePose = (radius: number): Pose => [0, 0, radius, 0, 0, 0, 0];

/** R = Rz(yaw) Ry(pitch) Rx(roll), by rows. */
export function rotation(pose: Pose): number[][] {
  const [, , , roll, pitch, yaw] = pose as [number, number, number, number, number, number];
  const [cr, sr, cp, sp, cy, sy] = [roll, pitch, yaw].flatMap((a) => [Math.cos(a), Math.sin(a)]) as [
    number, number, number, number, number, number,
  ]; // prettier-ignore
  return [
    [cy * cp, cy * sp * sr - sy * cr, cy * sp * cr + sy * sr],
    [sy * cp, sy * sp * sr + cy * cr, sy * sp * cr - cy * sr],
    [-sp, cp * sr, cp * cr],
  ];
}

/** Where a point of the axle, given where it stands at ride, stands in this pose. */
export function placer(pose: Pose, radius: number): (point: Point) => Point {
  const rot = rotation(pose);
  return ([x, y, z]) =>
    rot.map((row, i) => pose[i]! + row[0]! * x + row[1]! * y + row[2]! * (z - radius)) as Point;
}

/** A movement in the chassis frame as the axle would have it at ride: turned back by its pose. */
export function turnedBack(pose: Pose, by: Point): Point {
  const rot = rotation(pose);
  return [0, 1, 2].map((j) => by.reduce((sum, v, i) => sum + rot[i]![j]! * v, 0)) as Point;
}

/** What a link does to the points that are its own: turned (by rows), then shifted, mm. */
export interface Turned {
  turn: readonly (readonly number[])[];
  shift: readonly number[];
}

/** Where each body has carried its points. */
export interface Standing {
  /** A point given where it stands at ride, carried by that body, where it stands now. */
  place: (on: string, point: Point) => Point;
  /** A movement in the chassis, as the body that carries it would have it at ride. */
  back: (on: string, by: Point) => Point;
  /** An end of a body; a bell crank's has turned about its pin as well. */
  end: (end: End) => Point;
  pose: Pose;
}

/** Standing in a pose; `carried` is what links do to their own points there. */
export function standing(pose: Pose, radius: number, carried: Record<string, Turned> = {}): Standing {
  const onAxle = placer(pose, radius);
  const place = (on: string, point: Point): Point => {
    const link = carried[on];
    if (link) return link.turn.map((row, i) => link.shift[i]! + dot(row, point)) as Point;
    return on === "axle" ? onAxle(point) : point;
  };
  const back = (on: string, by: Point): Point => {
    const link = carried[on];
    if (link)
      return [0, 1, 2].map((j) => link.turn.reduce((sum, row, i) => sum + row[j]! * by[i]!, 0)) as Point;
    return on === "axle" ? turnedBack(pose, by) : by;
  };
  return {
    place,
    back,
    pose,
    end: (end) => place(end.on, end.pivot ? turnedAbout(end, pose[6] ?? 0) : end.at),
  };
}

const dot = (row: readonly number[], point: Point) =>
  row[0]! * point[0] + row[1]! * point[1] + row[2]! * point[2];

/** A crank's end turned about its fore-aft pin by so much, radians. */
function turnedAbout({ at, pivot }: End, turn: number): Point {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const [dy, dz] = [at[1] - pivot![1], at[2] - pivot![2]];
  return [at[0], pivot![1] + c * dy - s * dz, pivot![2] + s * dy + c * dz];
}

export const atRide = (radius: number): Standing => standing(ridePose(radius), radius);

export type View = "side" | "top" | "rear";

/** Front of the truck is to the left: the side view is from the left, the top view below it, the rear view beside it. */
const ACROSS: Record<View, [axis: 0 | 1 | 2, sign: 1 | -1]> = { side: [0, -1], top: [0, -1], rear: [1, -1] };
const DOWN: Record<View, [axis: 0 | 1 | 2, sign: 1 | -1]> = { side: [2, -1], top: [1, 1], rear: [2, -1] };

export const VIEW_NAMES: Record<View, string> = {
  side: "Side, from the left",
  top: "Top",
  rear: "Rear",
};

/** What all three views share: the chassis point at their middle and the scale (screen px per mm). */
export interface Aim {
  middle: Point;
  scale: number;
}

export interface Cell {
  width: Px;
  height: Px;
}

export type Xy = ScreenPoint;

/** The view's projection: chassis mm to px in its cell. */
export function projector(view: View, aim: Aim, cell: Cell): (point: Point) => Xy {
  const [a, sa] = ACROSS[view];
  const [d, sd] = DOWN[view];
  return (p) => [
    cell.width / 2 + sa * (p[a] - aim.middle[a]) * aim.scale,
    cell.height / 2 + sd * (p[d] - aim.middle[d]) * aim.scale,
  ];
}

/** The movement in the chassis that a movement on the screen stands for in this view; nil across the view. */
export function movement(view: View, aim: Aim, dx: number, dy: number): Point {
  const by: Point = [0, 0, 0];
  const [a, sa] = ACROSS[view];
  const [d, sd] = DOWN[view];
  by[a] = (sa * dx) / aim.scale;
  by[d] = (sd * dy) / aim.scale;
  return by;
}

export interface Extent {
  low: Point;
  high: Point;
  /** How far to either side the top view reaches. */
  top: number;
}

/** What stands beside the views, in the corner that they leave free. */
export type Pane = Cell;

/**
 * Cells for a drawing area of this size, and the aim that fits the extent into them. With a pane, that has its size and
 * the views what is left; without one the views are as large as they can be, and the corner is what they leave.
 */
export function fitted(extent: Extent, width: number, height: number, gap: number, pane: Pane | null) {
  const [sx, sy, sz] = [0, 1, 2].map((i) => extent.high[i]! - extent.low[i]!) as Point;
  const down = 2 * extent.top;
  const [wide, tall] = [width - gap, height - gap];
  const free = Math.min(wide / (sx + sy), tall / (sz + down));
  const beside = pane?.width ?? (wide * sy) / (sx + sy);
  // what is to spare goes below: to the top view, and to what is said in the corner beside it
  const below = pane?.height ?? Math.max((tall * down) / (sz + down), tall - sz * free);
  const cells: Record<View, Cell> = {
    side: { width: wide - beside, height: tall - below },
    top: { width: wide - beside, height: below },
    rear: { width: beside, height: tall - below },
  };
  const scale = pane
    ? Math.min(cells.side.width / sx, cells.rear.width / sy, cells.side.height / sz, below / down)
    : free;
  const middle = [0, 1, 2].map((i) => (extent.low[i]! + extent.high[i]!) / 2) as Point;
  return { cells, aim: { middle, scale: Math.max(scale, 0.01) } };
}

/** Where each view's cell stands, and the corner: the view that leads is the upper left one, the others in projection. */
export function placed(lead: View, cells: Record<View, Cell>, gap: number) {
  const [right, below] = [cells.side.width + gap, cells.side.height + gap];
  const [across, up] = [lead === "rear", lead === "top"];
  const x = { first: across ? cells.rear.width + gap : 0, second: across ? 0 : right };
  const y = { first: up ? cells.top.height + gap : 0, second: up ? 0 : below };
  return {
    side: { left: x.first, top: y.first },
    top: { left: x.first, top: y.second },
    rear: { left: x.second, top: y.first },
    corner: { left: x.second, top: y.second },
  };
}

/** The outline around two circles (a tab, a tapered tube): points of a closed polygon with round ends. */
export function hull([x0, y0]: Xy, r0: number, [x1, y1]: Xy, r1: number): string {
  const d = Math.hypot(x1 - x0, y1 - y0);
  if (d <= Math.abs(r0 - r1) + 1e-6) {
    const [x, y, r] = r0 > r1 ? [x0, y0, r0] : [x1, y1, r1];
    return `M${f(x - r)} ${f(y)}a${f(r)} ${f(r)} 0 1 0 ${f(2 * r)} 0a${f(r)} ${f(r)} 0 1 0 ${f(-2 * r)} 0Z`;
  }
  const along = Math.atan2(y1 - y0, x1 - x0);
  const open = Math.acos((r0 - r1) / d);
  const at = (x: number, y: number, r: number, angle: number) =>
    `${f(x + r * Math.cos(angle))} ${f(y + r * Math.sin(angle))}`;
  const far = open < Math.PI / 2 ? 0 : 1;
  return (
    `M${at(x0, y0, r0, along + open)}` +
    `A${f(r0)} ${f(r0)} 0 ${1 - far} 1 ${at(x0, y0, r0, along - open)}` +
    `L${at(x1, y1, r1, along - open)}` +
    `A${f(r1)} ${f(r1)} 0 ${far} 1 ${at(x1, y1, r1, along + open)}Z`
  );
}

/** A figure for a path, short. */
export const f = (value: number): string => String(Math.round(value * 100) / 100);

export const line = (...points: Xy[]): string =>
  points.map(([x, y], i) => `${i ? "L" : "M"}${f(x)} ${f(y)}`).join("");

/** Convex outline of points (a body seen in any attitude). */
export function outline(points: Xy[]): string {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: Xy[]) => {
    const kept: Xy[] = [];
    for (const p of list) {
      while (kept.length > 1 && turn(kept.at(-2)!, kept.at(-1)!, p) <= 0) kept.pop();
      kept.push(p);
    }
    return kept.slice(0, -1);
  };
  return `${line(...half(sorted), ...half(sorted.reverse()))}Z`;
}

const turn = (a: Xy, b: Xy, c: Xy): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
