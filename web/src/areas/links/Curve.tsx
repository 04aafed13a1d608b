/** A small curve of one figure over the sweep, droop at the left, with the scrubber's place on it. */

import { memo } from "react";
import styled from "styled-components";

import { f, line, type Xy } from "../../floor/geometry";

const Plot = styled.svg`
  display: block;
  overflow: visible;
  fill: none;
  .ride {
    stroke: var(--hair);
  }
  .curve {
    stroke: var(--ink);
    stroke-width: 1.4;
    stroke-linejoin: round;
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

interface CurveProps {
  along: (number | null)[];
  values: (number | null)[];
  here: number;
  /** Null where the pose asked for is not on this curve: then only its place along it is marked. */
  hereValue: number | null;
  width: number;
  height: number;
}

export const Curve = memo(function Curve({ along, values, here, hereValue, width, height }: CurveProps) {
  const [first, last] = [along[0] ?? 0, along.at(-1) ?? 1];
  const known = values.filter((v): v is number => v !== null);
  const [low, high] = known.length ? [Math.min(...known), Math.max(...known)] : [0, 1];
  const flat = high - low < 1e-6;
  const x = (v: number) => (last === first ? width / 2 : ((v - first) / (last - first)) * width);
  const y = (v: number) => (flat ? height / 2 : 3 + (1 - (v - low) / (high - low)) * (height - 6));
  const runs: Xy[][] = [[]];
  values.forEach((v, n) => {
    const a = along[n];
    if (v === null || a === null || a === undefined) runs.push([]);
    else runs.at(-1)!.push([x(a), y(v)]);
  });
  return (
    <Plot width={width} height={height} aria-hidden="true">
      <path className="ride" d={`M${f(x(0))} 0V${height}M0 ${height}H${width}`} />
      <path
        className="curve"
        d={runs
          .filter((r) => r.length > 1)
          .map((r) => line(...r))
          .join("")}
      />
      {hereValue === null && <path className="off" d={`M${f(x(here))} 0V${height}`} />}
      {hereValue !== null && <circle className="here" cx={f(x(here))} cy={f(y(hereValue))} r={4} />}
    </Plot>
  );
});
