/** The lines that explain a figure, drawn when it is chosen. */

import styled from "styled-components";

import type { Document, Point } from "../../design/document";
import { barsOf } from "../../floor/Plate";
import {
  type Aim,
  type Cell,
  f,
  line,
  placer,
  type Pose,
  projector,
  type View,
  type Xy,
} from "../../floor/geometry";
import type { Solved } from "../../solve/solver";
import type { ReadingId } from "./readings";

const Lines = styled.g`
  stroke: var(--accent);
  stroke-width: 1.4;
  fill: none;
  .dash {
    stroke-dasharray: 7 4;
  }
  .dot {
    fill: var(--sheet);
    stroke-width: 2;
  }
  text {
    fill: var(--accent) !important;
  }
`;

export function construction(
  reading: ReadingId | null,
  view: View,
  solved: Solved | null,
  document: Document,
  pose: Pose,
  aim: Aim,
  cell: Cell,
) {
  if (!reading || !solved?.answer.here.reached[0]) return null;
  const to = projector(view, aim, cell);
  const here = (column: string) => solved.answer.here.columns[column]?.[0] ?? null;
  const ground = solved.travel;
  const center: Point = [here("axle_x") ?? 0, here("axle_y") ?? 0, here("axle_z") ?? 0];
  if (view === "side" && (reading === "instant_center" || reading === "anti")) {
    const [x, high] = [here("ic_x"), here("ic_height")];
    if (x === null || high === null) return null;
    const ic: Point = [x, 0, high + ground];
    const patch: Point = [center[0], 0, ground];
    return (
      <Lines>
        {reading === "instant_center" &&
          barsOf(document, placer(pose, document.axle.tire_radius_loaded))
            .filter((bar) => Math.abs(bar.a[0] - bar.b[0]) > 1)
            .map((bar) => <path key={bar.id} className="dash" d={line(to(bar.b), to(ic))} />)}
        {reading === "anti" && <path d={line(to(patch), to(ic))} />}
        {reading === "anti" && <HundredPercent document={document} center={center} ground={ground} to={to} />}
        <Dot at={to(ic)} name="instant center" cell={cell} />
      </Lines>
    );
  }
  if (reading === "roll_center" || reading === "roll_axis") {
    const [high, slope] = [here("roll_center_height"), here("roll_axis_angle")];
    if (high === null || slope === null) return null;
    const rc: Point = [center[0], center[1], high + ground];
    const rise = Math.tan((slope * Math.PI) / 180);
    const along = (dx: number): Point => [rc[0] + dx, rc[1], rc[2] + rise * dx];
    return (
      <Lines>
        {view === "side" && <path className="dash" d={line(to(along(-4000)), to(along(4000)))} />}
        {view !== "top" && <Dot at={to(rc)} name="roll center" cell={cell} />}
      </Lines>
    );
  }
  return null;
}

/** From the contact patch to the height of the center of gravity over the other axle. */
function HundredPercent(props: { document: Document; center: Point; ground: number; to: (p: Point) => Xy }) {
  const { axle, vehicle } = props.document;
  const other = axle.end === "rear" ? vehicle.wheelbase : -vehicle.wheelbase;
  const patch: Point = [props.center[0], 0, props.ground];
  const end: Point = [other, 0, vehicle.cg_height];
  const label = props.to([patch[0] + (other - patch[0]) * 0.5, 0, patch[2] + (end[2] - patch[2]) * 0.5]);
  return (
    <>
      <path className="dash" d={line(props.to(patch), props.to(end))} />
      <text x={f(label[0])} y={f(label[1] - 8)}>
        100 %
      </text>
    </>
  );
}

function Dot({ at, name, cell }: { at: Xy; name: string; cell: Cell }) {
  const inside = at[0] > 0 && at[0] < cell.width && at[1] > 0 && at[1] < cell.height;
  if (!inside) return null;
  const right = at[0] > cell.width - 100;
  return (
    <>
      <circle className="dot" cx={f(at[0])} cy={f(at[1])} r={5} />
      <text x={f(at[0] + (right ? -10 : 10))} y={f(at[1] - 8)} textAnchor={right ? "end" : "start"}>
        {name}
      </text>
    </>
  );
}
