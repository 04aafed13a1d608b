/** What was brought in, dashed on the floor, with a dot to drag all of it by. */

import { useRef } from "react";
import styled from "styled-components";

import { middleOf } from "../../document/solids";
import { ARROWS, paceOf } from "../../floor/Handle";
import { type Aim, type Cell, f, movement, projector, type View, VIEW_NAMES } from "../../floor/geometry";
import { outlinesOf } from "../../floor/KeepOuts";
import { placedAt, useBrought } from "../../state/brought";
import { usePreferences } from "../../state/preferences";
import { increment, snapped } from "../../units/tape";

const Dashed = styled.g`
  path {
    fill: none;
    stroke: var(--accent);
    stroke-width: 1.6;
    stroke-dasharray: 6 4;
    pointer-events: none;
  }
  circle {
    fill: var(--sheet);
    stroke: var(--accent);
    stroke-width: 2;
    cursor: grab;
    outline: none;
  }
  circle:focus-visible {
    stroke-width: 4;
  }
`;

interface Scene {
  view: View;
  aim: Aim;
  cell: Cell;
}

export function BroughtOutlines({ view, aim, cell }: Scene) {
  const { shapes, at, turn } = useBrought();
  const to = projector(view, aim, cell);
  return (
    <Dashed>
      {placedAt({ shapes, at, turn }).flatMap(({ solid }, n) =>
        outlinesOf(solid, to, aim.scale).map((d, m) => <path key={`${n} ${m}`} d={d} />),
      )}
    </Dashed>
  );
}

export function BroughtGrip({ view, aim, cell }: Scene) {
  const { shapes, at, turn, put } = useBrought();
  const held = useRef<{ x: number; y: number; at: readonly number[] } | null>(null);
  const [first] = placedAt({ shapes, at, turn });
  if (!first) return null;
  const [x, y] = projector(view, aim, cell)(middleOf(first.solid));
  const brought = (from: readonly number[], by: readonly number[], step: number) =>
    put({ at: from.map((v, i) => (by[i] === 0 ? v : snapped(v, by[i]!, step))) });
  const step = (event: { shiftKey: boolean; altKey: boolean }) =>
    increment(usePreferences.getState().units, paceOf(event));
  return (
    <Dashed>
      <circle
        cx={f(x)}
        cy={f(y)}
        r={9}
        role="button"
        tabIndex={0}
        data-brought={view}
        aria-label={`What was brought in, in the ${VIEW_NAMES[view].toLowerCase()} view: arrows move it`}
        onPointerDown={(event) => {
          event.stopPropagation(); // or the floor is dragged along
          event.currentTarget.setPointerCapture(event.pointerId);
          held.current = { x: event.clientX, y: event.clientY, at };
        }}
        onPointerMove={(event) => {
          const from = held.current;
          if (from)
            brought(
              from.at,
              movement(view, aim, event.clientX - from.x, event.clientY - from.y),
              step(event),
            );
        }}
        onPointerUp={() => (held.current = null)}
        onPointerCancel={() => (held.current = null)}
        onKeyDown={(event) => {
          const arrow = ARROWS[event.key];
          if (!arrow) return;
          event.preventDefault();
          event.stopPropagation();
          const way = movement(view, { ...aim, scale: 1 }, arrow[0], arrow[1]);
          const by = step(event);
          put({ at: at.map((v, i) => v + way[i]! * by) });
        }}
      />
    </Dashed>
  );
}
