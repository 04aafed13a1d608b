/** A bracket's edge and a truss's corners to take hold of on the floor. */

import { create } from "zustand";

import type { Document, Point } from "../../document/document";
import { ARROWS, paceOf } from "../../floor/Handle";
import { type Aim, type Cell, movement, projector, type Standing, type View } from "../../floor/geometry";
import { Knob, markOf } from "../../floor/Knob";
import { useHolding } from "../../state/holding";
import { usePreferences } from "../../state/preferences";
import { increment, snapped } from "../../units/tape";
import { type Bracket, sizesOf, withSizes } from "./making";
import { type CutOut, type Plate, spaceOf } from "./plate";
import { type Corner, trussOf, withCorner, withTruss } from "./truss";

/** Which bracket is open to be changed, by its id. */
export const useOpenBracket = create<{ open: string | null; set: (open: string | null) => void }>()(
  (set) => ({
    open: null,
    set: (open) => set({ open }),
  }),
);

interface Scene {
  document: Document;
  standing: Standing;
  view: View;
  aim: Aim;
  cell: Cell;
}

const step = (event: { shiftKey: boolean; altKey: boolean }) =>
  increment(usePreferences.getState().units, paceOf(event));

/** How much of a way a view must show for its grip to stand there. */
const SEEN = 0.3;

const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, i) => sum + v * b[i]!, 0);

/** From a plate's first hole straight away from what it stands on: a unit way in its own axes. */
function outward({ outline }: Plate): [number, number] {
  const middle = [0, 1].map(
    (axis) => outline.reduce((sum, at) => sum + at[axis as 0 | 1], 0) / outline.length,
  );
  const long = Math.hypot(...middle);
  return long < 1e-6 ? [0, 1] : [-middle[0]! / long, -middle[1]! / long];
}

export function EdgeGrip({ found, ...scene }: Scene & { found: CutOut }) {
  const { open } = useOpenBracket();
  const bracket = scene.document.brackets?.find(({ id }) => id === open);
  const plate = found.brackets.find(({ id }) => id === open)?.plates[1];
  if (!bracket || !plate || plate.holes.length === 0) return null;
  const [du, dv] = outward(plate);
  const [u, v] = plate.holes[0]!;
  const way = [0, 1, 2].map((i) => du * plate.u[i]! + dv * plate.v[i]!) as unknown as Point;
  const at = spaceOf(plate, [u + du * bracket.edge, v + dv * bracket.edge]);
  return <OneEdge {...scene} {...{ bracket, way, at }} />;
}

function OneEdge(props: Scene & { bracket: Bracket; way: Point; at: Point }) {
  const { document, standing, view, aim, cell, bracket, way, at } = props;
  const on = bracket.base.kind === "tube" || isOnAxle(document, bracket) ? "axle" : "frame";
  const to = projector(view, aim, cell);
  const [[x, y], [u, v]] = [to(standing.place(on, at)), to(standing.place(on, at.map((p, i) => p + way[i]!) as unknown as Point))]; // prettier-ignore
  const grip = useHolding({
    taken: (event) => ({ x: event.clientX, y: event.clientY, standing, bracket, way }),
    brought: (now, from, event) => {
      const by = from.standing.back(on, movement(view, aim, event.clientX - from.x, event.clientY - from.y));
      return edged(now, from.bracket, snapped(from.bracket.edge, dot(by, from.way), step(event)));
    },
    pressed: (now, event) => {
      const arrow = ARROWS[event.key];
      const more = arrow && Math.sign(arrow[0] * (u - x) + arrow[1] * (v - y));
      const stands = now.brackets?.find(({ id }) => id === bracket.id);
      return more && stands ? edged(now, stands, stands.edge + more * step(event)) : null;
    },
  });
  if (Math.hypot(u - x, v - y) < SEEN * aim.scale) return null;
  return (
    <Knob
      role="button"
      tabIndex={0}
      aria-label={`Edge of bracket ${bracket.id}: arrows move it`}
      data-pull="edge"
      {...grip}
    >
      <circle className="touch" cx={x} cy={y} r={14} />
      <path className="knob" d={markOf(false, across(view, way), view, x, y)} />
    </Knob>
  );
}

const isOnAxle = ({ links }: Document, { mounts }: Bracket): boolean =>
  links.some(({ id }) => mounts[0] === `${id}.axle`);

/** The axis of a view that a way mostly goes along. */
const across = (view: View, way: Point): readonly number[] => {
  const shown = { side: [0, 2], top: [0, 1], rear: [1, 2] }[view];
  return [
    shown.reduce((best, axis) => (Math.abs(way[axis]!) > Math.abs(way[best]!) ? axis : best), shown[0]!),
  ];
};

const LEAST_MM = 1;
const edged = (document: Document, bracket: Bracket, edge: number): Document =>
  withSizes(document, bracket, { ...sizesOf(document, bracket), edge: Math.max(edge, LEAST_MM) });

/** The corners of the truss's top, in the rear view. */
export function TrussGrips(scene: Scene) {
  const truss = trussOf(scene.document);
  if (!truss || scene.view !== "rear") return null;
  return (
    <g role="list" aria-label="Corners of the truss">
      {truss.top.map((at, n) => (
        <OneCorner key={n} {...scene} n={n} at={at} x={truss.ahead} />
      ))}
    </g>
  );
}

function OneCorner(props: Scene & { n: number; at: Corner; x: number }) {
  const { standing, view, aim, cell, n, at, x: ahead } = props;
  const [x, y] = projector(view, aim, cell)(standing.place("axle", [ahead, ...at] as unknown as Point));
  const moved = (document: Document, to: Corner) => {
    const truss = trussOf(document);
    return truss && withTruss(document, withCorner(truss, n, to));
  };
  const grip = useHolding({
    taken: (event) => ({ x: event.clientX, y: event.clientY, standing, at }),
    brought: (document, from, event) => {
      const by = from.standing.back(
        "axle",
        movement(view, aim, event.clientX - from.x, event.clientY - from.y),
      );
      const [y0, z0] = from.at;
      return moved(document, [snapped(y0, by[1], step(event)), snapped(z0, by[2], step(event))]);
    },
    pressed: (document, event) => {
      const arrow = ARROWS[event.key];
      const stands = trussOf(document)?.top[n];
      if (!arrow || !stands) return null;
      const by = movement(view, { ...aim, scale: 1 }, arrow[0], arrow[1]).map((v) => v * step(event));
      return moved(document, [stands[0] + by[1]!, stands[1] + by[2]!]);
    },
  });
  return (
    <g role="listitem">
      <Knob
        role="button"
        tabIndex={0}
        aria-label={`Truss, corner ${n + 1}: arrows move it`}
        data-pull={`truss ${n}`}
        {...grip}
      >
        <circle className="touch" cx={x} cy={y} r={14} />
        <path className="knob" d={markOf(false, [1, 2], view, x, y)} />
      </Knob>
    </g>
  );
}
