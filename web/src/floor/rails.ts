/** The frame's rails as drawn: the file's, or where this design's frame mounts would need them. */

import { type Document, type Point, spotsOf } from "../document/document";
import type { RailSize } from "./Parts";

/** How far the rails are drawn beyond the farthest mount, mm. */
const BEYOND = 130;

/** The file's rails; without any, rails where this design's frame mounts would need them. */
export function railsOf(document: Document): RailSize {
  const xs = spotsOf(document).flatMap((m) => (m.on === "frame" ? [m.at[0]] : []));
  const reach = document.axle.tire_diameter * 0.55;
  const [from, until] = [Math.min(-reach, ...xs) - BEYOND, Math.max(reach, ...xs) + BEYOND];
  const own = document.rails;
  if (own) {
    const { outside_width: outside, depth, flange, underside } = own;
    return { outside, depth, flange, underside, from, until };
  }
  const high = document.axle.tire_radius_loaded + document.travel.bump + document.axle.tube_diameter;
  return { outside: 860, depth: 140, flange: 60, underside: Math.min(high, 650), from, until };
}

/** The nearest place on a rail to weld a bracket to. */
export function onRail([x, y, z]: Point, rails: RailSize): Point {
  const side = y < 0 ? -1 : 1;
  const [low, high] = [0.42, 0.58].map((part) => rails.underside + rails.depth * part) as [number, number];
  return [x, side * (rails.outside / 2 - rails.flange / 2), Math.min(Math.max(z, low), high)];
}
