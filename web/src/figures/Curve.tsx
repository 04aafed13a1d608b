/** A small curve of one figure over the sweep, droop at the left, on its band, with the scrubber's place on it. */

import { memo } from "react";
import styled from "styled-components";

import { f } from "../floor/geometry";
import { pathOf, type Values } from "./plots";

const Plot = styled.svg`
  display: block;
  overflow: hidden;
  contain: strict;
  fill: none;
  .band {
    fill: var(--steel);
    stroke: none;
  }
  .ride {
    stroke: var(--hair);
  }
  .curve {
    stroke: var(--ink);
    stroke-width: 1.4;
    stroke-linejoin: round;
  }
  .ghost {
    stroke: var(--far);
    stroke-width: 1.2;
    stroke-dasharray: 3 2;
  }
  .off {
    stroke: var(--accent);
    stroke-dasharray: 3 3;
  }
  .here {
    fill: var(--accent);
    stroke: var(--sheet);
    stroke-width: 1.5;
  }
`;

/** Where a travel and a value lie on a plot; all values on it, and at least so much of them. */
export function scalesOf(along: Values, values: Values, least: number, width: number, height: number) {
  const [first, last] = [along[0] ?? 0, along.at(-1) ?? 1];
  const known = values.filter((v): v is number => v !== null);
  const [bottom, top] = known.length ? [Math.min(...known), Math.max(...known)] : [0, 1];
  const slack = Math.max(0, least - (top - bottom)) / 2;
  const [low, high] = [bottom - slack, top + slack];
  return {
    x: (v: number) => (last === first ? width / 2 : ((v - first) / (last - first)) * width),
    y: (v: number) => 3 + (1 - (v - low) / (high - low)) * (height - 6),
    /** What one pixel up stands for. */
    perPixel: (high - low) / (height - 6),
  };
}

interface CurveProps {
  along: Values;
  values: Values;
  ghost: Values | null;
  /** What is wanted of the figure; an open end is null. */
  band: [number | null, number | null] | null;
  here: number;
  /** Null where the pose asked for is not on this curve: then only its place along it is marked. */
  hereValue: number | null;
  /** The values at the plot's low and high edge; without it, those of the curves. */
  range?: [number, number];
  /** The least that the plot's height stands for: what is smaller is drawn as level as it is. */
  least: number;
  width: number;
  height: number;
}

export const Curve = memo(function Curve(props: CurveProps) {
  const { along, values, ghost, band, here, hereValue, least, width, height } = props;
  const { x, y } = scalesOf(along, props.range ?? [...values, ...(ghost ?? [])], least, width, height);
  const trace = (list: Values) => pathOf(along, list, x, y);
  return (
    <Plot width={width} height={height} aria-hidden="true">
      {band && (
        <path
          className="band"
          d={bandPath(
            band.map((v) => (v === null ? null : y(v))),
            width,
            height,
          )}
        />
      )}
      <path className="ride" d={`M${f(x(0))} 0V${height}M0 ${height}H${width}`} />
      {ghost && <path className="ghost" d={trace(ghost)} />}
      <path className="curve" d={trace(values)} />
      {hereValue === null && <path className="off" d={`M${f(x(here))} 0V${height}`} />}
      {hereValue !== null && <circle className="here" cx={f(x(here))} cy={f(y(hereValue))} r={3.5} />}
    </Plot>
  );
});

/** From the low end's height to the high end's, each kept on the plot. */
function bandPath([low, high]: (number | null)[], width: number, height: number): string {
  const inside = (v: number) => Math.min(Math.max(v, -1), height + 1);
  const [bottom, top] = [inside(low ?? height + 1), inside(high ?? -1)];
  return `M0 ${f(top)}H${width}V${f(bottom)}H0Z`;
}
