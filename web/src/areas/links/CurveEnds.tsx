/** A reading's curve, large, with its ends to take hold of: what it is at full droop and at full bump can be pulled. */

import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import styled from "styled-components";

import { paceOf } from "../../floor/Handle";
import { f } from "../../floor/geometry";
import type { Solved } from "../../state/solver";
import { increment, length, type Units } from "../../units/tape";
import type { Behind } from "../../state/behind";
import { Curve, scalesOf } from "../../figures/Curve";
import { type Values } from "../../figures/plots";
import { further } from "./PullDots";
import { holdResult, letGo, pullOnce, pullTo, type Wanted } from "../../state/pulling";
import { LEAST, type Reading, show } from "../../figures/readings";

const WIDTH = 264;
const HEIGHT = 76;

const Frame = styled.div`
  position: relative;
  height: ${HEIGHT + 18}px;
  .numbers {
    position: absolute;
    inset: 0;
    width: ${WIDTH}px;
    font-size: 0.75rem;
    color: var(--quiet);
    pointer-events: none;
  }
  .numbers > span {
    position: absolute;
    right: 1.375rem;
    top: -2px;
  }
  .numbers > .low {
    top: ${HEIGHT - 15}px;
  }
  .numbers > .along {
    left: 0;
    right: 0;
    top: ${HEIGHT + 1}px;
    display: flex;
    justify-content: space-between;
  }
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
  band: [number | null, number | null] | null;
}) {
  const { reading, column, solved, behind, units, band } = props;
  const sweep = solved.answer.heave;
  const along = sweep.columns["travel"] ?? [];
  const values = sweep.columns[column] ?? [];
  const ghost = behind?.answer?.heave.columns[column] ?? null;
  const fresh = rangeFor(values, ghost, band, reading);
  // while an end is pulled the scale stands still, so that the end stays under the hand
  const [held, setHeld] = useState<[number, number] | null>(null);
  const range = held ?? fresh;
  const scales = scalesOf(along, range, 0, WIDTH, HEIGHT);
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
        band={band}
        here={solved.travel}
        hereValue={null}
        range={range}
        least={0}
        width={WIDTH}
        height={HEIGHT}
      />
      <Numbers {...{ reading, range, along, units }} />
      <svg
        className="ends"
        width={WIDTH}
        height={HEIGHT}
        role="group"
        aria-label={`${reading.name} over the travel`}
      >
        {ends.map((end) => (
          <Grip
            key={end.name}
            {...{ end, column, reading, units, scales }}
            onHold={(holding) => setHeld(holding ? fresh : null)}
          />
        ))}
      </svg>
    </Frame>
  );
}

/** What the plot has to show: the curves, a band's ends near them, a margin to pull into. */
function rangeFor(
  values: Values,
  ghost: Values | null,
  band: (number | null)[] | null,
  reading: Reading,
): [number, number] {
  const known = [...values, ...(ghost ?? [])].filter((v): v is number => v !== null);
  const [low, high] = known.length ? [Math.min(...known), Math.max(...known)] : [0, 1];
  const tall = Math.max(high - low, LEAST[reading.quantity]);
  const near = (band ?? []).filter((v): v is number => v !== null && v > low - tall && v < high + tall);
  const [bottom, top] = [Math.min(low, ...near), Math.max(high, ...near)];
  const margin = 0.15 * Math.max(top - bottom, tall);
  return [bottom - margin, top + margin];
}

/** The plot's ends in numbers: how high, and from where to where. */
function Numbers(props: { reading: Reading; range: [number, number]; along: Values; units: Units }) {
  const { reading, range, along, units } = props;
  const [droop, bump] = [along[0] ?? 0, along.at(-1) ?? 0];
  return (
    <div className="numbers" aria-hidden="true">
      <span>{show(range[1], reading.quantity, units)}</span>
      <span className="low">{show(range[0], reading.quantity, units)}</span>
      <span className="along">
        <span>droop {length(Math.abs(droop), units)}</span>
        <span>bump {length(bump, units)}</span>
      </span>
    </div>
  );
}

function Grip(props: {
  end: End;
  column: string;
  reading: Reading;
  units: Units;
  scales: ReturnType<typeof scalesOf>;
  onHold: (holding: boolean) => void;
}) {
  const { end, column, reading, units, scales, onHold } = props;
  const start = useRef<{ y: number; value: number; perPixel: number } | null>(null);
  const wanted = (value: number): Wanted[] => [
    { figure: column, travel: end.travel, articulation: 0, value },
  ];
  const done = (keep: boolean) => () => {
    if (!start.current) return;
    start.current = null;
    onHold(false);
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
        onHold(true);
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
        void pullOnce(further(wanted(end.value), wanted(end.value + way * step(reading, units, event))));
      }}
    >
      <circle cx={f(scales.x(end.travel))} cy={f(scales.y(end.value))} r={16} fill="transparent" />
      <circle className="ring" cx={f(scales.x(end.travel))} cy={f(scales.y(end.value))} r={6} />
    </g>
  );
}
