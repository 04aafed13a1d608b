/** Keep-outs and zones to choose on the floor, and the corners and faces of the chosen one to take hold of. */

import styled from "styled-components";

import type { Document, Point } from "../../document/document";
import { keepOutsOf, shapeOf, withShape, zonesOf, type Which } from "../../document/room";
import { gripsOf, type Grip } from "../../document/solids";
import { ARROWS, type Pace, paceOf } from "../../floor/Handle";
import { Knob, markOf, SHOWN } from "../../floor/Knob";
import {
  type Aim,
  type Cell,
  movement,
  projector,
  type Standing,
  type View,
  VIEW_NAMES,
} from "../../floor/geometry";
import { outlinesOf } from "../../floor/KeepOuts";
import { useHolding } from "../../state/holding";
import { usePreferences } from "../../state/preferences";
import { useChosen, useRoom } from "../../state/room";
import { increment, snapped } from "../../units/tape";

interface Scene {
  document: Document;
  standing: Standing;
  view: View;
  aim: Aim;
  cell: Cell;
}

const Solids = styled.g`
  path {
    fill: transparent;
    stroke: transparent;
    stroke-width: 6;
    cursor: pointer;
  }
  path:hover,
  [data-chosen="true"] path {
    stroke: var(--accent);
    stroke-width: 1.6;
  }
`;

/** What lies on the floor to be chosen by pressing on it; by key they are chosen from the list beside. */
export function Outlines({ document, standing, view, aim, cell }: Scene) {
  const choose = useRoom((s) => s.choose);
  const chosen = useRoom((s) => s.chosen);
  const to = projector(view, aim, cell);
  const each = (which: Which, on: string, paths: string[]) => (
    <g
      key={`${which.list} ${which.id}`}
      data-solid={which.id}
      data-chosen={chosen?.list === which.list && chosen.id === which.id}
      onPointerDown={() => choose(which)}
    >
      {paths.map((d, n) => (
        <path key={n} d={d} data-on={on} />
      ))}
    </g>
  );
  return (
    <Solids>
      {zonesOf(document).map(({ id, region }) =>
        each(
          { list: "zones", id },
          "frame",
          region.kind === "holes" ? [] : outlinesOf(region, to, aim.scale),
        ),
      )}
      {keepOutsOf(document).map(({ id, on, solid }) =>
        each(
          { list: "keep_outs", id },
          on,
          outlinesOf(solid, (p) => to(standing.place(on, p)), aim.scale),
        ),
      )}
    </Solids>
  );
}

/** The chosen one's own grips, as many as do something in this view. */
export function Grips(props: Scene) {
  const { document, standing, view, aim, cell } = props;
  const chosen = useChosen(document);
  if (!chosen) return null;
  const on = "on" in chosen.one ? String(chosen.one.on) : "frame";
  const to = projector(view, aim, cell);
  const grips = gripsOf(shapeOf(chosen.one)).filter((grip) =>
    grip.free.some((axis) => SHOWN[view].includes(axis)),
  );
  const name = chosen.one.name || chosen.one.id;
  return (
    <g role="list" aria-label={`${name} in the ${VIEW_NAMES[view].toLowerCase()} view`}>
      {grips.map((grip) => (
        <OneGrip
          key={grip.key}
          {...{ grip, view, aim, standing, on, name }}
          which={chosen.which}
          at={to(standing.place(on, grip.at))}
        />
      ))}
    </g>
  );
}

interface GripProps {
  grip: Grip;
  which: Which;
  at: readonly [number, number];
  view: View;
  aim: Aim;
  standing: Standing;
  on: string;
  name: string;
}

/** Where a grip is brought by so much: each free axis on a shop increment. */
function stepped(grip: Grip, by: Point, pace: Pace): Point {
  const step = increment(usePreferences.getState().units, pace);
  return grip.at.map((v, i) =>
    (grip.free as readonly number[]).includes(i) ? snapped(v, by[i]!, step) - v : 0,
  ) as Point;
}

const useGrip = ({ grip, which, view, aim, standing, on }: GripProps) =>
  useHolding({
    taken: (event) => ({ x: event.clientX, y: event.clientY, grip, standing }),
    brought: (document, { x, y, grip: held, standing: stood }, event) => {
      const by = stood.back(on, movement(view, aim, event.clientX - x, event.clientY - y));
      return withShape(document, which, held.moved(stepped(held, by, paceOf(event))));
    },
    pressed: (document, event) => {
      const arrow = ARROWS[event.key];
      if (!arrow) return null;
      const step = increment(usePreferences.getState().units, paceOf(event));
      const way = movement(view, { ...aim, scale: 1 }, arrow[0], arrow[1]);
      const by = way.map((v, i) => ((grip.free as readonly number[]).includes(i) ? v * step : 0)) as Point;
      return withShape(document, which, grip.moved(by));
    },
  });

function OneGrip(props: GripProps) {
  const { grip, at, name, view } = props;
  const [x, y] = at;
  return (
    <g role="listitem">
      <Knob
        role="button"
        tabIndex={0}
        aria-label={`${name}, ${grip.words}: arrows move it`}
        data-pull={grip.key}
        {...useGrip(props)}
      >
        <circle className="touch" cx={x} cy={y} r={grip.key === "whole" ? 12 : 14} />
        <path className="knob" d={markOf(grip.key === "whole", grip.free, view, x, y)} />
      </Knob>
    </g>
  );
}
