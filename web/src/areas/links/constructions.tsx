/** The lines that explain a figure: drawn when it is chosen, or for as long as they are wanted. */

import type { ReactNode } from "react";
import styled from "styled-components";

import { bodiesOf, type Document, type Point } from "../../document/document";
import { barsNow } from "../../floor/bars";
import type { Drawn } from "../../floor/drawn";
import { type Note, placedNotes, solidsOf } from "../../floor/notes";
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
import type { Solved } from "../../state/solver";
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
  .leader {
    stroke-width: 0.8;
  }
  && text {
    fill: var(--accent);
    stroke: var(--sheet);
    stroke-width: 3px;
    paint-order: stroke;
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

/** What one construction comes to in a view: lines, and what is written on them. */
interface Explained {
  lines: ReactNode;
  notes?: Note[];
}

const NOTHING: Explained = { lines: null };

/** The lines that are asked for, by a chosen figure or for good, in one view; what is written on them overprints nothing. */
export function construction(asked: Drawn | null, drawn: readonly Drawn[], scene: Scene): ReactNode {
  if (!scene.solved.answer.here.reached[0]) return null;
  const all = [...new Set(asked ? [...drawn, asked] : drawn)];
  const parts = all.flatMap((one) => {
    const explain = PARTS[one];
    return explain ? [{ one, ...explain(scene) }] : [];
  });
  if (parts.every(({ lines, notes }) => lines === null && notes === undefined)) return null;
  return (
    <Lines>
      {parts.map(({ one, lines }) => (
        <g key={one}>{lines}</g>
      ))}
      <Notes notes={parts.flatMap((part) => part.notes ?? [])} scene={scene} />
    </Lines>
  );
}

const PARTS: Partial<Record<Drawn, (scene: Scene) => Explained>> = {
  center: toCenter,
  neutral,
  axis: rollAxis,
  plan: triangulation,
  arcs,
  path: axlePath,
};

function toCenter(scene: Scene): Explained {
  const ic = instantCenter(scene);
  if (scene.view !== "side" || !ic) return NOTHING;
  const { to, document, standing } = scene;
  const lines = barsNow(document, standing)
    .filter((bar) => Math.abs(bar.a[0] - bar.b[0]) > 1)
    .map((bar) => <path key={bar.id} className="dash" d={line(to(bar.b), to(ic))} />);
  return { lines, notes: [{ at: to(ic), text: "instant center", dot: true }] };
}

/** The force line from the tire, and the 100 % line: to the height of the center of gravity over the other axle. */
function neutral(scene: Scene): Explained {
  if (scene.view !== "side") return NOTHING;
  const { to, document, solved } = scene;
  const { axle, vehicle } = document;
  const ic = instantCenter(scene);
  const patch: Point = [centerOf(scene)[0], 0, solved.travel];
  const other = axle.end === "rear" ? vehicle.wheelbase : -vehicle.wheelbase;
  const end: Point = [other, 0, vehicle.cg_height];
  const on = seen(to(patch), to(end), scene.cell);
  return {
    lines: (
      <>
        {ic && <path d={line(to(patch), to(ic))} />}
        <path className="dash" d={line(to(patch), to(end))} />
      </>
    ),
    notes: [
      ...(ic ? [{ at: to(ic), text: "instant center", dot: true }] : []),
      { at: on, text: "100 %", dot: false },
    ],
  };
}

/** Two thirds along what is on the sheet of a line from a point on it. */
function seen(from: Xy, until: Xy, cell: Cell): Xy {
  const reach = [0, 1].map((i) => {
    const by = until[i]! - from[i]!;
    const edge = by > 0 ? [cell.width, cell.height][i]! : 0;
    return by === 0 ? 1 : Math.max((edge - from[i]!) / by, 0);
  });
  const part = (2 / 3) * Math.min(1, ...reach);
  return [from[0] + (until[0] - from[0]) * part, from[1] + (until[1] - from[1]) * part];
}

function rollAxis(scene: Scene): Explained {
  const rc = rollCenter(scene);
  const slope = at(scene, "roll_axis_angle");
  if (!rc || slope === null) return NOTHING;
  const { view, to } = scene;
  const rise = Math.tan((slope * Math.PI) / 180);
  const along = (dx: number): Point => [rc[0] + dx, rc[1], rc[2] + rise * dx];
  const center: Note = { at: to(rc), text: "roll center", dot: true };
  if (view === "rear") return { lines: null, notes: [center] };
  const apexes = apexesOf(scene);
  const notes = apexes.map(({ kind, point }) => ({ at: to(point), text: `apex of the ${kind}s`, dot: true }));
  if (view === "side")
    return {
      lines: <path className="dash" d={line(to(along(-4000)), to(along(4000)))} />,
      notes: [center, ...notes],
    };
  const lines = apexes.flatMap(({ kind, point, bars }) =>
    bars.map((bar, n) => (
      <path key={`${kind} ${n}`} className="dash faint" d={line(to(bar.a), to(point), to(bar.b))} />
    )),
  );
  return { lines, notes };
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

/** The angle between the links of each pair, and of an upper against a lower, in plan. */
function triangulation(scene: Scene): Explained {
  if (scene.view !== "top") return NOTHING;
  const { document, standing, to } = scene;
  const drawn = barsNow(document, standing)
    .filter(isLink)
    .map((bar) => {
      const [dx, dy] = [bar.b[0] - bar.a[0], bar.b[1] - bar.a[1]];
      const angle = (Math.atan2(Math.abs(dy), Math.abs(dx)) * 180) / Math.PI;
      const [along, across] = [dx, dy].map((by) => (by / Math.hypot(dx, dy)) * 160) as [number, number];
      const straight = to([bar.b[0] + Math.sign(dx) * 160, bar.b[1], bar.b[2]]);
      const on = to([bar.b[0] + along, bar.b[1] + across, bar.b[2]]);
      return { id: bar.id, from: to(bar.b), straight, on, text: `${plain(angle, 1)}°` };
    });
  return {
    lines: drawn.map(({ id, from, straight, on }) => (
      <g key={id}>
        <path className="faint" d={line(from, straight)} />
        <path className="dash" d={line(from, on)} />
      </g>
    )),
    notes: drawn.map(({ id, straight, text }) => ({ at: straight, text, dot: false, id })),
  };
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
function arcs(scene: Scene): Explained {
  const placers = overTravel(scene);
  const { to } = scene;
  const lines = bodiesOf(scene.document)
    .filter(
      (body) =>
        body.a.on === "axle" && body.a.pivot === null && body.shape !== "strut" && body.shape !== "shock",
    )
    .map((body) => (
      <path key={body.id} className="faint" d={line(...placers.map((place) => to(place(body.a.at))))} />
    ));
  return { lines };
}

function axlePath(scene: Scene): Explained {
  const radius = scene.document.axle.tire_radius_loaded;
  const points = overTravel(scene).map((place) => scene.to(place([0, 0, radius])));
  const now = scene.to(centerOf(scene));
  const lines = (
    <>
      <path d={line(...points)} />
      <circle className="dot" cx={f(now[0])} cy={f(now[1])} r={4} />
    </>
  );
  return { lines };
}

/** The point itself; or, when it lies off the sheet, where its edge is nearest to it. */
export const edged = ([x, y]: Xy, cell: Cell, inside = 16): Xy => [
  Math.min(Math.max(x, inside), cell.width - inside),
  Math.min(Math.max(y, inside), cell.height - inside),
];

/** Written so that no note overprints another, a part, or what can be taken hold of; a leader where it stands apart. */
function Notes({
  notes,
  scene,
}: {
  notes: Note[];
  scene: Pick<Scene, "view" | "document" | "standing" | "cell" | "to">;
}) {
  const { cell } = scene;
  const once = [...new Map(notes.map((note) => [note.id ?? note.text, note])).values()];
  const here = once.map((note) => {
    const near = edged(note.at, cell);
    const [dx, dy] = [note.at[0] - near[0], note.at[1] - near[1]];
    const off = note.dot && (dx !== 0 || dy !== 0);
    const way = Math.abs(dx) > Math.abs(dy) ? (dx < 0 ? "◂ " : "▸ ") : dy < 0 ? "▴ " : "▾ ";
    return { ...note, at: near, dot: note.dot && !off, text: off ? way + note.text : note.text };
  });
  return placedNotes(here, solidsOf(scene), cell).map(({ note, place, leader }) => (
    <g key={note.id ?? note.text}>
      {note.dot && <circle className="dot" cx={f(note.at[0])} cy={f(note.at[1])} r={5} />}
      {leader && <path className="leader" d={line(note.at, leader)} />}
      <text x={f(place[0])} y={f(place[1])} textAnchor="middle">
        {note.text}
      </text>
    </g>
  ));
}

/** The lines of a construction toward a chosen point, with the station where the holes are. */
export function Converging(props: {
  view: View;
  document: Document;
  standing: Standing;
  point: readonly [number, number];
  station: number;
  kind: string;
  aim: Aim;
  cell: Cell;
}) {
  const { view, document, standing, point, station, kind, aim, cell } = props;
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
      <Notes
        notes={[{ at: meet, text: "chosen point", dot: true }]}
        scene={{ view, document, standing, cell, to }}
      />
    </Lines>
  );
}
