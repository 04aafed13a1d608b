/** What the cut sheet changes in a truss: its sizes and the corners of its top, each with its mirror image. */

import type { Schemas } from "../../api/client";
import type { Document } from "../../document/document";

export type Truss = Schemas["Truss"];
export type Corner = readonly [left: number, up: number];

/** The truss with all that its file may leave out. */
export const trussOf = ({ truss }: Document): Truss | null =>
  truss ? { ...truss, ahead: (truss as Partial<Truss>).ahead ?? 0 } : null;

export const withTruss = (document: Document, truss: Truss | null): Document => ({ ...document, truss });

const ALIKE_MM = 0.5;

/** Which corner is the mirror image of one, -1 where none is. */
function acrossFrom({ top }: Truss, n: number): number {
  const [y, z] = top[n]!;
  return top.findIndex(
    ([other, up], k) => k !== n && Math.abs(other + y) < ALIKE_MM && Math.abs(up - z) < ALIKE_MM,
  );
}

/** The truss with a corner of its top elsewhere, and its mirror image with it. */
export function withCorner(truss: Truss, n: number, [y, z]: Corner): Truss {
  const other = acrossFrom(truss, n);
  const top = truss.top.map((at, k): [number, number] => (k === n ? [y, z] : k === other ? [-y, z] : at));
  return { ...truss, top };
}

/** With a corner more, in the middle of its longest bay; or with one fewer. */
export function withMoreCorners(truss: Truss): Truss {
  const { top } = truss;
  const long = (n: number) => Math.hypot(top[n + 1]![0] - top[n]![0], top[n + 1]![1] - top[n]![1]);
  const bay = [...top.keys()].slice(0, -1).reduce((best, n) => (long(n) > long(best) ? n : best), 0);
  const [a, b] = [top[bay]!, top[bay + 1]!];
  return {
    ...truss,
    top: [...top.slice(0, bay + 1), [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], ...top.slice(bay + 1)],
  };
}

export const withoutCorner = (truss: Truss, n: number): Truss => ({
  ...truss,
  top: truss.top.filter((_, k) => k !== n),
});
