/** What is in the way: keep-outs in projection, those on the axle carried by it. */

import { memo } from "react";

import type { Document } from "../document/parts";
import { inPrism, type Region, type Solid, turnOf } from "../document/solids";
import type { ChassisPoint as Point } from "../units/brands";
import { f, hull, line, outline, type Standing, type Xy } from "./geometry";
import type { Scene } from "./Parts";

export const KeepOuts = memo(function KeepOuts(props: {
  scene: Scene;
  document: Document;
  standing: Standing;
}) {
  const { scene, document, standing } = props;
  return (
    <g>
      {(document.room?.zones ?? []).map(({ id, name, region }) => (
        <g key={`zone ${id}`} data-zone={id}>
          <title>{`Zone: ${name || id}`}</title>
          {zonePaths(region, scene).map((d, n) => (
            <path key={n} className="zone" d={d} />
          ))}
        </g>
      ))}
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

const HOLE_PX = 4;

/** A zone's outline; of a row of holes a cross at each. */
function zonePaths(region: Region, { to, scale }: Scene): string[] {
  if (region.kind !== "holes") return outlinesOf(region, to, scale);
  return region.at.map((hole) => {
    const [x, y] = to(hole);
    return `M${f(x - HOLE_PX)} ${f(y)}h${2 * HOLE_PX}M${f(x)} ${f(y - HOLE_PX)}v${2 * HOLE_PX}`;
  });
}

/** A solid's outlines in a view: of a tube one for each of its legs. */
export function outlinesOf(solid: Solid, to: (p: Point) => Xy, scale: number): string[] {
  if (solid.kind === "tube") {
    const half = (solid.diameter / 2) * scale;
    return solid.path
      .slice(1)
      .map((end, n) => hull(to(solid.path[n]! as Point), half, to(end as Point), half));
  }
  if (solid.kind === "box") return [outline(cornersOf(solid).map(to))];
  if (solid.kind === "hull") return [outline(solid.points.map((p) => to(p as Point)))];
  const [near, far] = [solid.from, solid.to].map((at) =>
    solid.outline.map((corner) => to(inPrism(solid, corner, at))),
  ) as [Xy[], Xy[]];
  // seen end on, it is its outline; from anywhere else its shadow is as good as convex
  const endOn = Math.hypot(near[0]![0] - far[0]![0], near[0]![1] - far[0]![1]) < END_ON_PX;
  return [endOn ? `${line(...near)}Z` : outline([...near, ...far])];
}

const END_ON_PX = 0.5;

/** The corners of a box, turned about its center: Rz Ry Rx. */
function cornersOf(box: Extract<Solid, { kind: "box" }>): Point[] {
  const { center, size } = box;
  const [ax, ay, az] = turnOf(box).map((degrees) => (degrees * Math.PI) / 180) as [number, number, number];
  return [0, 1, 2, 3, 4, 5, 6, 7].map((n) => {
    let [x, y, z] = size.map((s, k) => ((n >> k) & 1 ? s : -s) / 2) as [number, number, number];
    [y, z] = [y * Math.cos(ax) - z * Math.sin(ax), y * Math.sin(ax) + z * Math.cos(ax)];
    [x, z] = [x * Math.cos(ay) + z * Math.sin(ay), -x * Math.sin(ay) + z * Math.cos(ay)];
    [x, y] = [x * Math.cos(az) - y * Math.sin(az), x * Math.sin(az) + y * Math.cos(az)];
    return [center[0] + x, center[1] + y, center[2] + z] as unknown as Point;
  });
}
