/** The lines that explain a figure: drawn when it is chosen, or for as long as they are wanted. */

import type { ReactNode } from "react";
import styled from "styled-components";

import { bodiesOf, type Document, type Point } from "../../document/document";
import { barsNow } from "../../floor/bars";
import type { Drawn } from "../../floor/drawn";
import {
  type Aim,
  type Cell,
  f,
  line,
  placer,
  projector,
  type Standing,
  type View,
  type Xy,
} from "../../floor/geometry";
import type { Solved } from "../../shell/solver";
import { plain } from "../../units/tape";

const Lines = styled.g`
  stroke: var(--accent);
  stroke-width: 1.4;
  fill: none;
  .dash {
    stroke-dasharray: 7 4;
  }
  .faint {
    stroke-width: 1;
    stroke-opacity: 0.75;
  }
  .dot {
    fill: var(--sheet);
    stroke-width: 2;
  }
  text {
    fill: var(--accent) !important;
  }
`;

export interface Scene {
  view: View;
  solved: Solved;
  document: Document;
  standing: Standing;
  cell: Cell;
  to: (p: Point) => Xy;
}

const at = ({ solved }: Scene, column: string) => solved.answer.here.columns[column]?.[0] ?? null;

/** Where the axle's center stands, and the ground under it. */
const centerOf = (scene: Scene): Point => [
  at(scene, "axle_x") ?? 0,
  at(scene, "axle_y") ?? 0,
  at(scene, "axle_z") ?? 0,
];

export function instantCenter(scene: Scene): Point | null {
  const [x, high] = [at(scene, "ic_x"), at(scene, "ic_height")];
  return x === null || high === null ? null : [x, 0, high + scene.solved.travel];
}

const FAR_MM = 20_000;

/** The points of the constructions that a view of all of it has to hold; what is farther than any shop is left out. */
export function farPoints(scene: Pick<Scene, "document" | "standing"> & { solved: Solved | null }): Point[] {
  const { solved } = scene;
  const [x, z] = ["ic_x", "ic_height"].map((column) => solved?.answer.here.columns[column]?.[0]);
  const center: Point[] =
    solved && typeof x === "number" && typeof z === "number" ? [[x, 0, z + solved.travel]] : [];
  const all = [...center, ...apexesOf(scene).map((apex) => apex.point)];
  return all.filter((p) => p.every((v) => Math.abs(v) < FAR_MM));
}

export function rollCenter(scene: Scene): Point | null {
  const high = at(scene, "roll_center_height");
  const center = centerOf(scene);
  return high === null ? null : [center[0], center[1], high + scene.solved.travel];
}

/** The lines that are asked for, by a chosen figure or for good, in one view. */
export function construction(asked: Drawn | null, drawn: readonly Drawn[], scene: Scene): ReactNode {
  if (!scene.solved.answer.here.reached[0]) return null;
  const all = [...new Set(asked ? [...drawn, asked] : drawn)];
  const parts = all.map((one) => {
    const Part = PARTS[one];
    return Part ? <Part key={one} {...scene} /> : null;
  });
  return parts.some(Boolean) ? <Lines>{parts}</Lines> : null;
}

const PARTS: Partial<Record<Drawn, (scene: Scene) => ReactNode>> = {
  center: ToCenter,
  neutral: Neutral,
  axis: RollAxis,
  plan: Triangulation,
  arcs: Arcs,
  path: AxlePath,
};

function ToCenter(scene: Scene) {
  const ic = instantCenter(scene);
  if (scene.view !== "side" || !ic) return null;
  const { to, document, standing, cell } = scene;
  return (
    <>
      {barsNow(document, standing)
        .filter((bar) => Math.abs(bar.a[0] - bar.b[0]) > 1)
        .map((bar) => (
          <path key={bar.id} className="dash" d={line(to(bar.b), to(ic))} />
        ))}
      <Dot at={to(ic)} name="instant center" cell={cell} />
    </>
  );
}

/** The force line from the tire, and the 100 % line: to the height of the center of gravity over the other axle. */
function Neutral(scene: Scene) {
  if (scene.view !== "side") return null;
  const { to, document, cell, solved } = scene;
  const { axle, vehicle } = document;
  const ic = instantCenter(scene);
  const patch: Point = [centerOf(scene)[0], 0, solved.travel];
  const other = axle.end === "rear" ? vehicle.wheelbase : -vehicle.wheelbase;
  const end: Point = [other, 0, vehicle.cg_height];
  const label = to([(patch[0] + other) / 2, 0, (patch[2] + end[2]) / 2]);
  return (
    <>
      {ic && <path d={line(to(patch), to(ic))} />}
      {ic && <Dot at={to(ic)} name="instant center" cell={cell} />}
      <path className="dash" d={line(to(patch), to(end))} />
      <text x={f(label[0])} y={f(label[1] - 8)}>
        100 %
      </text>
    </>
  );
}

function RollAxis(scene: Scene) {
  const rc = rollCenter(scene);
  const slope = at(scene, "roll_axis_angle");
  if (!rc || slope === null) return null;
  const { view, to, cell } = scene;
  const rise = Math.tan((slope * Math.PI) / 180);
  const along = (dx: number): Point => [rc[0] + dx, rc[1], rc[2] + rise * dx];
  return (
    <>
      {view === "side" && <path className="dash" d={line(to(along(-4000)), to(along(4000)))} />}
      {view === "side" && <Apexes {...scene} />}
      {view === "top" && <Apexes {...scene} />}
      {view !== "top" && <Dot at={to(rc)} name="roll center" cell={cell} />}
    </>
  );
}

interface Apex {
  kind: string;
  point: Point;
  bars: { a: Point; b: Point }[];
}

/** Where the two links of a pair would meet in plan; the height is that of the links there. */
export function apexesOf({ document, standing }: Pick<Scene, "document" | "standing">): Apex[] {
  const bars = barsNow(document, standing);
  const found: Apex[] = [];
  for (const kind of ["upper", "lower"]) {
    const pair = bars.filter((bar) => bar.kind === kind);
    if (pair.length !== 2) continue;
    const [p, q] = [pair[0]!, pair[1]!];
    const along = (bar: { a: Point; b: Point }): Point => [
      bar.b[0] - bar.a[0],
      bar.b[1] - bar.a[1],
      bar.b[2] - bar.a[2],
    ];
    const [u, v] = [along(p), along(q)];
    const cross = u[0] * v[1] - u[1] * v[0];
    if (Math.abs(cross) < 1e-4 * Math.hypot(u[0], u[1]) * Math.hypot(v[0], v[1])) continue;
    const s = ((q.a[0] - p.a[0]) * v[1] - (q.a[1] - p.a[1]) * v[0]) / cross;
    found.push({ kind, point: p.a.map((c, i) => c + s * u[i]!) as Point, bars: pair });
  }
  return found;
}

function Apexes(scene: Scene) {
  const { view, to, cell } = scene;
  return (
    <>
      {apexesOf(scene).map(({ kind, point, bars }) => (
        <g key={kind}>
          {view === "top" &&
            bars.map((bar, n) => (
              <path key={n} className="dash faint" d={line(to(bar.a), to(point), to(bar.b))} />
            ))}
          <Dot at={to(point)} name={`apex of the ${kind}s`} cell={cell} />
        </g>
      ))}
    </>
  );
}

/** The angle between the links of each pair, and of an upper against a lower, in plan. */
function Triangulation(scene: Scene) {
  if (scene.view !== "top") return null;
  const { document, standing, to } = scene;
  const bars = barsNow(document, standing);
  return (
    <>
      {bars.filter(isLink).map((bar) => {
        const [dx, dy] = [bar.b[0] - bar.a[0], bar.b[1] - bar.a[1]];
        const angle = (Math.atan2(Math.abs(dy), Math.abs(dx)) * 180) / Math.PI;
        const [x, y] = to(bar.b);
        const straight: Point = [bar.b[0] + Math.sign(dx) * 160, bar.b[1], bar.b[2]];
        const on: Point = [
          bar.b[0] + (dx / Math.hypot(dx, dy)) * 160,
          bar.b[1] + (dy / Math.hypot(dx, dy)) * 160,
          bar.b[2],
        ];
        return (
          <g key={bar.id}>
            <path className="faint" d={line([x, y], to(straight))} />
            <path className="dash" d={line([x, y], to(on))} />
            <text x={f(to(straight)[0])} y={f(to(straight)[1] - 4)} textAnchor="end">
              {plain(angle, 1)}°
            </text>
          </g>
        );
      })}
    </>
  );
}

const isLink = (bar: { kind: string }) => ["lower", "upper", "radius_arm"].includes(bar.kind);

/** What points of the axle draw over the straight travel. */
function overTravel({ solved, document }: Scene): ((p: Point) => Point)[] {
  const { state, reached } = solved.answer.heave;
  return state
    .filter((_, n) => reached[n])
    .map((pose) => placer(pose as number[], document.axle.tire_radius_loaded));
}

/** The paths of the axle's joints, each from where it stands at ride. */
function Arcs(scene: Scene) {
  const placers = overTravel(scene);
  const { to } = scene;
  return (
    <>
      {bodiesOf(scene.document)
        .filter((body) => body.a.on === "axle" && body.a.pivot === null && body.shape !== "strut")
        .map((body) => (
          <path key={body.id} className="faint" d={line(...placers.map((place) => to(place(body.a.at))))} />
        ))}
    </>
  );
}

function AxlePath(scene: Scene) {
  const radius = scene.document.axle.tire_radius_loaded;
  const points = overTravel(scene).map((place) => scene.to(place([0, 0, radius])));
  const now = scene.to(centerOf(scene));
  return (
    <>
      <path d={line(...points)} />
      <circle className="dot" cx={f(now[0])} cy={f(now[1])} r={4} />
    </>
  );
}

/** The point itself; or, when it lies off the sheet, where its edge is nearest to it. */
export const edged = ([x, y]: Xy, cell: Cell, inside = 16): Xy => [
  Math.min(Math.max(x, inside), cell.width - inside),
  Math.min(Math.max(y, inside), cell.height - inside),
];

export function Dot({ at: [x, y], name, cell }: { at: Xy; name: string; cell: Cell }) {
  const [ex, ey] = edged([x, y], cell);
  if (ex !== x || ey !== y) {
    const left = ex < cell.width / 2;
    const way = Math.abs(x - ex) > Math.abs(y - ey) ? (x < ex ? "◂ " : "▸ ") : y < ey ? "▴ " : "▾ ";
    return (
      <text x={f(left ? 34 : cell.width - 34)} y={f(ey + 5)} textAnchor={left ? "start" : "end"}>
        {way}
        {name}
      </text>
    );
  }
  const right = x > cell.width - 100;
  return (
    <>
      <circle className="dot" cx={f(x)} cy={f(y)} r={5} />
      <text x={f(x + (right ? -10 : 10))} y={f(y - 8)} textAnchor={right ? "end" : "start"}>
        {name}
      </text>
    </>
  );
}

/** The lines of a construction toward a chosen point, with the station where the holes are. */
export function Converging(props: {
  view: View;
  document: Document;
  point: readonly [number, number];
  station: number;
  kind: string;
  aim: Aim;
  cell: Cell;
}) {
  const { view, document, point, station, kind, aim, cell } = props;
  if (view !== "side") return null;
  const to = projector(view, aim, cell);
  const meet = to([point[0], 0, point[1]]);
  return (
    <Lines>
      {document.links.map((link) =>
        link.kind !== "radius_arm" && link.kind === kind ? (
          <path key={link.id} className="dash" d={line(to(link.axle.at), meet)} />
        ) : null,
      )}
      <path d={line([to([station, 0, 0])[0], 0], [to([station, 0, 0])[0], cell.height])} className="faint" />
      <Dot at={meet} name="chosen point" cell={cell} />
    </Lines>
  );
}
