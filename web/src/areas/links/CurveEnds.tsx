/** A reading's curve, large, with its ends to take hold of: what it is at full droop and at full bump can be pulled. */

import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import styled from "styled-components";

import { paceOf } from "../../floor/Handle";
import { f } from "../../floor/geometry";
import type { Solved } from "../../shell/solver";
import { increment, type Units } from "../../units/tape";
import type { Behind } from "../../shell/behind";
import { Curve, scalesOf } from "../../figures/Curve";
import { holdResult, letGo, pullOnce, pullTo, type Wanted } from "../../shell/pulling";
import { LEAST, type Reading, show } from "../../figures/readings";

const WIDTH = 296;
const HEIGHT = 60;

const Frame = styled.div`
  position: relative;
  height: ${HEIGHT}px;
  svg.ends {
    position: absolute;
    inset: 0;
    overflow: visible;
  }
  circle.ring {
    fill: var(--sheet);
    stroke: var(--accent);
    stroke-width: 2;
  }
  g {
    cursor: ns-resize;
    outline: none;
    touch-action: none;
  }
  g:hover .ring,
  g:focus-visible .ring {
    stroke-width: 4;
  }
`;

interface End {
  name: string;
  travel: number;
  value: number;
}

/** What a nudge by a key is worth. */
const step = (reading: Reading, units: Units, event: KeyboardEvent): number =>
  reading.quantity === "length"
    ? increment(units, paceOf(event))
    : { fine: 0.1, shop: 0.5, coarse: 2 }[paceOf(event)] * (reading.quantity === "percent" ? 5 : 1);

export function CurveEnds(props: {
  reading: Reading;
  column: string;
  solved: Solved;
  behind: Behind | null;
  units: Units;
}) {
  const { reading, column, solved, behind, units } = props;
  const sweep = solved.answer.heave;
  const along = sweep.columns["travel"] ?? [];
  const values = sweep.columns[column] ?? [];
  const ghost = behind?.answer?.heave.columns[column] ?? null;
  const scales = scalesOf(along, [...values, ...(ghost ?? [])], LEAST[reading.quantity], WIDTH, HEIGHT);
  const ends = [0, -1].flatMap((n): End[] => {
    const [travel, value] = [along.at(n), values.at(n)];
    if (travel === null || travel === undefined || value === null || value === undefined) return [];
    return [{ name: n === 0 ? "full droop" : "full bump", travel, value }];
  });
  return (
    <Frame>
      <Curve
        along={along}
        values={values}
        ghost={ghost}
        band={null}
        here={solved.travel}
        hereValue={null}
        least={LEAST[reading.quantity]}
        width={WIDTH}
        height={HEIGHT}
      />
      <svg
        className="ends"
        width={WIDTH}
        height={HEIGHT}
        role="group"
        aria-label={`${reading.name} over the travel`}
      >
        {ends.map((end) => (
          <Grip key={end.name} {...{ end, column, reading, units, scales }} />
        ))}
      </svg>
    </Frame>
  );
}

function Grip(props: {
  end: End;
  column: string;
  reading: Reading;
  units: Units;
  scales: ReturnType<typeof scalesOf>;
}) {
  const { end, column, reading, units, scales } = props;
  const start = useRef<{ y: number; value: number; perPixel: number } | null>(null);
  const wanted = (value: number): Wanted[] => [
    { figure: column, travel: end.travel, articulation: 0, value },
  ];
  const done = (keep: boolean) => () => {
    if (!start.current) return;
    start.current = null;
    void letGo(keep);
  };
  return (
    <g
      role="button"
      tabIndex={0}
      data-end={end.name}
      aria-label={`At ${end.name}: ${show(end.value, reading.quantity, units)}. Pull it, and the free mounts follow`}
      onPointerDown={(event: PointerEvent) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = { y: event.clientY, value: end.value, perPixel: scales.perPixel };
        holdResult();
      }}
      onPointerMove={(event: PointerEvent) => {
        const from = start.current;
        if (from) pullTo(wanted(from.value + (from.y - event.clientY) * from.perPixel));
      }}
      onPointerUp={done(true)}
      onPointerCancel={done(false)}
      onKeyDown={(event) => {
        const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
        if (way === undefined) return;
        event.preventDefault();
        void pullOnce(wanted(end.value + way * step(reading, units, event)));
      }}
    >
      <circle cx={f(scales.x(end.travel))} cy={f(scales.y(end.value))} r={16} fill="transparent" />
      <circle className="ring" cx={f(scales.x(end.travel))} cy={f(scales.y(end.value))} r={6} />
    </g>
  );
}
