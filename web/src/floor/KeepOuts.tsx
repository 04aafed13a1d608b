/** What is in the way: keep-outs in projection, those on the axle carried by it. */

import { memo } from "react";

import type { Document } from "../document/parts";
import { UPRIGHT } from "../document/room";
import type { ChassisPoint as Point } from "../units/brands";
import { hull, line, outline, type Standing, type Xy } from "./geometry";
import type { Scene } from "./Parts";

type Solid = NonNullable<Document["room"]>["keep_outs"][number]["solid"];

const AXES = { x: 0, y: 1, z: 2 } as const;

export const KeepOuts = memo(function KeepOuts(props: {
  scene: Scene;
  document: Document;
  standing: Standing;
}) {
  const { scene, document, standing } = props;
  return (
    <g>
      {(document.room?.keep_outs ?? []).map(({ id, name, on, solid }) => {
        const to = (p: Point): Xy => scene.to(standing.place(on, p));
        return (
          <g key={id} data-keep-out={id}>
            <title>{name || id}</title>
            {outlinesOf(solid, to, scene.scale).map((d, n) => (
              <path key={n} className="deep medium hidden" fillOpacity={0.5} d={d} />
            ))}
          </g>
        );
      })}
    </g>
  );
});

/** A solid's outlines in a view: of a tube one for each of its legs, of a prism its two ends and what lies between. */
export function outlinesOf(solid: Solid, to: (p: Point) => Xy, scale: number): string[] {
  if (solid.kind === "tube") {
    const half = (solid.diameter / 2) * scale;
    return solid.path
      .slice(1)
      .map((end, n) => hull(to(solid.path[n]! as Point), half, to(end as Point), half));
  }
  if (solid.kind === "box") return [outline(cornersOf(solid).map(to))];
  if (solid.kind === "hull") return [outline(solid.points.map((p) => to(p as Point)))];
  const axis = AXES[solid.along];
  const end = (at: number): Xy[] =>
    solid.outline.map(([a, b]) => {
      const point = [a, b];
      point.splice(axis, 0, at);
      return to(point as unknown as Point);
    });
  const [near, far] = [end(solid.from), end(solid.to)];
  const sides = near.map((p, n) => {
    const next = (n + 1) % near.length;
    return `${line(p, near[next]!, far[next]!, far[n]!)}Z`;
  });
  return [...sides, `${line(...near)}Z`, `${line(...far)}Z`];
}

/** The corners of a box, turned about its center: Rz Ry Rx. */
function cornersOf(box: Extract<Solid, { kind: "box" }>): Point[] {
  const { center, size, turn } = { ...UPRIGHT, ...box };
  const [ax, ay, az] = turn.map((degrees) => (degrees * Math.PI) / 180) as [number, number, number];
  return [0, 1, 2, 3, 4, 5, 6, 7].map((n) => {
    let [x, y, z] = size.map((s, k) => ((n >> k) & 1 ? s : -s) / 2) as [number, number, number];
    [y, z] = [y * Math.cos(ax) - z * Math.sin(ax), y * Math.sin(ax) + z * Math.cos(ax)];
    [x, z] = [x * Math.cos(ay) + z * Math.sin(ay), -x * Math.sin(ay) + z * Math.cos(ay)];
    [x, y] = [x * Math.cos(az) - y * Math.sin(az), x * Math.sin(az) + y * Math.cos(az)];
    return [center[0] + x, center[1] + y, center[2] + z] as unknown as Point;
  });
}
