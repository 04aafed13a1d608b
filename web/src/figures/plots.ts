/** What curves on a plot are made of, wherever they are drawn. */

import { scaleLinear } from "d3-scale";

import { line, type Xy } from "../floor/geometry";

export type Values = (number | null)[];

/** A path through the values, broken where there are none. */
export function pathOf(
  along: Values,
  values: Values,
  x: (v: number) => number,
  y: (v: number) => number,
): string {
  const runs: Xy[][] = [[]];
  values.forEach((v, n) => {
    const a = along[n];
    if (v === null || a === null || a === undefined) runs.push([]);
    else runs.at(-1)!.push([x(a), y(v)]);
  });
  return runs
    .filter((run) => run.length > 1)
    .map((run) => line(...run))
    .join("");
}

/** Places along an axis that are round in the unit it is said in (`unit`: so much of it is one), each with its words. */
export function ticksOf(from: number, to: number, said: (v: number) => string, unit = 1): [number, string][] {
  const seen = new Set<string>();
  return scaleLinear([from / unit, to / unit], [0, 1])
    .ticks(5)
    .flatMap((at): [number, string][] => {
      const words = said(at * unit);
      if (seen.has(words)) return [];
      seen.add(words);
      return [[at * unit, words]];
    });
}
