/** Curves as paths on a panel: what of them can be worked out without drawing. */

import { scaleLinear } from "d3-scale";

import { scalesOf } from "../../figures/Curve";
import { pathOf, type Values } from "../../figures/plots";
import { f } from "../../floor/geometry";

/** The least gap's column: it comes with the map of gaps, in fewer poses. */
export const LEAST_GAP = "gap_spare";

export interface Panel {
  along: Values;
  values: Values;
}

interface Size {
  /** The lowest and highest of all that shares the scale. */
  range: [number, number];
  least: number;
  wide: number;
  high: number;
  band: readonly [number | null, number | null] | null;
}

/** How far outside a band a value is, or how near to its edge: the larger the worse. */
export function badness(value: number, [low, high]: readonly [number | null, number | null]): number {
  return Math.max(low === null ? -Infinity : low - value, high === null ? -Infinity : value - high);
}

/** A panel's curve, the one behind it, its band from top to bottom, and where it is worst. */
export function linesOf(panel: Panel, ghost: Values | null, size: Size) {
  const { along, values } = panel;
  if (along.length === 0) return null;
  const { range, least, wide, high, band } = size;
  const { x } = scalesOf(along, range, least, wide, high);
  const slack = Math.max(0, least - (range[1] - range[0])) / 2;
  const y = scaleLinear([range[0] - slack, range[1] + slack], [high - 3, 3]);
  const points = values.flatMap((v, n): [number, number][] => (v === null ? [] : [[along[n] ?? 0, v]]));
  const judge = (v: number) => (band ? badness(v, band) : Math.abs(v));
  const worst = points.reduce<[number, number] | null>(
    (best, point) => (best === null || judge(point[1]) > judge(best[1]) ? point : best),
    null,
  );
  const inside = (v: number) => Math.min(Math.max(v, 0), high);
  const [bottom, top] = [y.invert(high - 3), y.invert(3)];
  return {
    x: (v: number) => f(x(v)),
    /** Where nothing is, if the scale has it; and what stands at its two ends. */
    zero: bottom < 0 && top > 0 ? y(0) : null,
    ends: [bottom, top] as const,
    line: pathOf(along, values, x, y),
    ghost: ghost ? pathOf(along, ghost, x, y) : null,
    band: band
      ? ([inside(band[1] === null ? 0 : y(band[1])), inside(band[0] === null ? high : y(band[0]))] as const)
      : null,
    worst: worst ? ([x(worst[0]), y(worst[1])] as const) : null,
  };
}
