/** The chosen mount’s bolt as a line to take hold of: turned in the view it is dragged in, its mirror image with it. */

import styled from "styled-components";

import { boltAxis, type Document, jointOf, mountLabel, type Point, type Spot, spotsOf, withBoltTurned } from "../../document/document"; // prettier-ignore
import {
  type Aim,
  type Cell,
  f,
  line,
  movement,
  projector,
  type Standing,
  type View,
  type Xy,
} from "../../floor/geometry";
import { useHolding } from "../../state/holding";

const LONG_PX = 46;
/** A bolt seen this nearly end on has no line to turn in that view. */
const END_ON = 0.25;
const STEP_DEG = 0.5;
const FINE_DEG = 0.1;

const Grip = styled.g`
  cursor: grab;
  outline: none;
  path {
    stroke: var(--accent);
    stroke-width: 2;
    stroke-dasharray: 10 3 2 3;
    pointer-events: none; /* it lies over the mount, which is dragged by itself */
  }
  rect {
    fill: var(--sheet);
    stroke: var(--accent);
    stroke-width: 2;
  }
  .touch {
    fill: transparent;
    stroke: none;
  }
  &:focus-visible rect {
    stroke-width: 4;
  }
`;

/** The two axes of a view, across and up the paper, as they are in the chassis. */
const PAPER: Record<View, readonly [axis: 0 | 1 | 2, other: 0 | 1 | 2]> = { side: [0, 2], top: [0, 1], rear: [1, 2] }; // prettier-ignore

/** A direction with its part in a view turned to where a point of the paper lies from the mount, chassis mm. */
export function turnedTo(bolt: Point, view: View, toward: Point, step: number): Point | null {
  const [a, b] = PAPER[view];
  const flat = Math.hypot(bolt[a], bolt[b]);
  if (flat < END_ON || Math.hypot(toward[a], toward[b]) === 0) return null;
  const wanted = (Math.atan2(toward[b], toward[a]) * 180) / Math.PI;
  const angle = (Math.round(wanted / step) * step * Math.PI) / 180;
  const next = [...bolt] as Point;
  next[a] = flat * Math.cos(angle);
  next[b] = flat * Math.sin(angle);
  return next;
}

/** Turned in a view by so many degrees. */
export function turnedBy(bolt: Point, view: View, degrees: number): Point | null {
  const [a, b] = PAPER[view];
  const flat = Math.hypot(bolt[a], bolt[b]);
  if (flat < END_ON) return null;
  const angle = Math.atan2(bolt[b], bolt[a]) + (degrees * Math.PI) / 180;
  const next = [...bolt] as Point;
  next[a] = flat * Math.cos(angle);
  next[b] = flat * Math.sin(angle);
  return next;
}

interface Scene {
  document: Document;
  standing: Standing;
  chosen: string | undefined;
  view: View;
  aim: Aim;
  cell: Cell;
}

export function BoltGrip({ document, standing, chosen, view, aim, cell }: Scene) {
  const mount = spotsOf(document).find((spot) => spot.key === chosen);
  if (!mount || jointOf(document, mount) === undefined) return null;
  const bolt = boltAxis(document, mount);
  const [a, b] = PAPER[view];
  if (Math.hypot(bolt[a], bolt[b]) < END_ON) return null;
  const at = standing.place(mount.on, mount.at);
  const end = standing.place(mount.on, mount.at.map((v, i) => v + bolt[i]! * 100) as Point);
  const to = projector(view, aim, cell);
  const [from, way] = [to(at), to(end)];
  const long = Math.hypot(way[0] - from[0], way[1] - from[1]);
  const tip: Xy = [from[0] + ((way[0] - from[0]) / long) * LONG_PX, from[1] + ((way[1] - from[1]) / long) * LONG_PX] as Xy; // prettier-ignore
  return <OneBolt {...{ mount, bolt, view, aim, standing, from, tip }} />;
}

interface BoltProps {
  mount: Spot;
  bolt: Point;
  view: View;
  aim: Aim;
  standing: Standing;
  from: Xy;
  tip: Xy;
}

const TURNS: Record<string, number> = { ArrowLeft: 1, ArrowUp: 1, ArrowRight: -1, ArrowDown: -1 };

/** Dragging and arrow keys: the design with the bolt so turned. */
const useTurning = ({ mount, bolt, view, aim, standing, from }: BoltProps) =>
  useHolding({
    taken: (event) => {
      const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
      return { x: box.left + from[0], y: box.top + from[1] };
    },
    brought: (document, { x, y }, event) => {
      const toward = standing.back(mount.on, movement(view, aim, event.clientX - x, event.clientY - y));
      const next = turnedTo(bolt, view, toward, event.shiftKey ? FINE_DEG : STEP_DEG);
      return next && withBoltTurned(document, mount, next);
    },
    pressed: (document, event) => {
      const way = TURNS[event.key];
      const next =
        way === undefined ? null : turnedBy(bolt, view, way * (event.shiftKey ? FINE_DEG : STEP_DEG));
      return next && withBoltTurned(document, mount, next);
    },
  });

function OneBolt(props: BoltProps) {
  const { mount, from, tip } = props;
  const back: Xy = [2 * from[0] - tip[0], 2 * from[1] - tip[1]] as Xy;
  return (
    <Grip
      role="button"
      tabIndex={0}
      aria-label={`Bolt of ${mountLabel(mount)}: arrows turn it`}
      data-pull="bolt"
      {...useTurning(props)}
    >
      <path d={line(back, tip)} />
      <circle className="touch" cx={f(tip[0])} cy={f(tip[1])} r={14} />
      <rect
        x={f(tip[0] - 4)}
        y={f(tip[1] - 4)}
        width={8}
        height={8}
        transform={`rotate(45 ${f(tip[0])} ${f(tip[1])})`}
      />
    </Grip>
  );
}
