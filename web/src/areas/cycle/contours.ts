/** A field over travel and twist as lines of equal value, at even steps. */

import { contours } from "d3-contour";
import { scaleLinear } from "d3-scale";

import { f } from "../../floor/geometry";

type Field = readonly (readonly (number | null)[])[];

export interface Level {
  value: number;
  path: string;
  /** Where its number stands: on the line, where it runs longest; null where it has no room. */
  label: readonly [number, number] | null;
}

const STEPS = 9;
const LEAST_PX = 60;

/**
 * Levels of the field, each with its line. `x`, `y`: where a column and a row stand, px, of any part of one. A pose
 * without a value bounds the lines.
 */
export function levelsOf(field: Field, x: (column: number) => number, y: (row: number) => number): Level[] {
  const known = field.flat().filter((v): v is number => v !== null);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const [rows, columns] = [field.length, field[0]?.length ?? 0];
  if (!(high > low) || rows < 2 || columns < 2) return [];
  const trace = contours().size([columns, rows]);
  const values = field.flat().map((v) => v ?? Number.NaN);
  // a grid's value stands in the middle of its cell; what runs along its rim, or where values end, has another value
  const at = (row: number, column: number) => field[row]?.[column] ?? Number.NaN;
  const isOff =
    (value: number) =>
    ([a, b]: readonly number[]) => {
      const [column, row] = [a! - 0.5, b! - 0.5];
      const [c, r] = [Math.floor(column + 1e-9), Math.floor(row + 1e-9)];
      const [along, down] = [column - c, row - r];
      const next = along > 1e-6 ? at(r, c + 1) : down > 1e-6 ? at(r + 1, c) : at(r, c);
      const here = at(r, c) + (next - at(r, c)) * Math.max(along, down);
      return !(Math.abs(here - value) <= 1e-3 * (high - low));
    };
  return scaleLinear([low, high], [0, 1])
    .ticks(STEPS)
    .map((value) => {
      const rings = trace.contour(values, value).coordinates.flat() as [number, number][][];
      const runs = rings.flatMap((ring) => splitAt(ring, isOff(value))).filter((run) => run.length > 1);
      const drawn = runs.map((run) => run.map(([a, b]): [number, number] => [x(a - 0.5), y(b - 0.5)]));
      return {
        value,
        path: drawn.map((run) => `M${run.map(([a, b]) => `${f(a)} ${f(b)}`).join("L")}`).join(""),
        label: labelOn(drawn),
      };
    })
    .filter(({ path }) => path !== "");
} // prettier-ignore

/** The runs of a ring between points that are not on its line. */
function splitAt<P extends readonly number[]>(ring: readonly P[], isOff: (point: P) => boolean): P[][] {
  const runs: P[][] = [[]];
  for (const point of ring)
    if (isOff(point)) runs.push([]);
    else runs.at(-1)!.push(point);
  return runs;
}

/** The middle of the longest run. */
function labelOn(
  runs: readonly (readonly (readonly [number, number])[])[],
): readonly [number, number] | null {
  const long = (run: readonly (readonly [number, number])[]) =>
    run.slice(1).reduce((sum, [a, b], n) => sum + Math.hypot(a - run[n]![0], b - run[n]![1]), 0);
  const longest = runs.reduce<(typeof runs)[number] | null>(
    (best, run) => (best === null || long(run) > long(best) ? run : best),
    null,
  );
  return longest !== null && long(longest) > LEAST_PX ? longest[Math.floor(longest.length / 2)]! : null;
}
