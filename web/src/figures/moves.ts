/** Moves of mounts in the words of a shop. */

import { AXES, type Axis, type Document, mirrorOf, type Spot, spotsOf } from "../document/document";

/** Mounts by the core's names, a pair said once: "upper frame ends". */
export function mountWords(document: Document, names: readonly string[]): string {
  const mounts = spotsOf(document).filter((m) => names.includes(m.name));
  const first = mounts[0];
  if (!first) return names.join(" and ");
  const bar = first.partName.charAt(0).toLowerCase() + first.partName.slice(1);
  if (mounts.length === 1) return `${bar} ${first.end}`;
  return `${bar.replace(/\b(left|right)\b ?/g, "").trim()} ${first.end}s`;
}

/** Which way a change along an axis goes, for a mount on the left or on the centerline. */
export function wayWords(document: Document, names: readonly string[], axis: string, by: number): string {
  if (axis === "z") return by > 0 ? "up" : "down";
  if (axis === "x") return by > 0 ? "forward" : "back";
  const side = spotsOf(document).find((m) => m.name === names[0])?.at[1] ?? 0;
  if (names.length < 2 && Math.abs(side) < 1) return by > 0 ? "to the left" : "to the right";
  return by * (side < 0 ? -1 : 1) > 0 ? "outward" : "inward";
}

export interface Move {
  mounts: string[];
  ways: { axis: Axis; by: number }[];
}

const STILL_MM = 0.05;

/** The mounts that an answer puts elsewhere, a pair that moves as one said once; `by` as on the left. */
export function movesOf(document: Document, at: Record<string, readonly number[]>): Move[] {
  const by = (mount: Spot) => (at[mount.name] ?? mount.at).map((v, i) => v - mount.at[i]!);
  const mirrored = (one: number[], other: number[]) =>
    one.every((v, i) => Math.abs(v - (i === 1 ? -other[i]! : other[i]!)) < STILL_MM);
  const moves: Move[] = [];
  for (const mount of spotsOf(document)) {
    const ways = by(mount).flatMap((v, i) => (Math.abs(v) < STILL_MM ? [] : [{ axis: AXES[i]!, by: v }]));
    if (ways.length === 0 || moves.some((move) => move.mounts.includes(mount.name))) continue;
    const twin = mirrorOf(document, mount);
    const together = twin !== undefined && mirrored(by(mount), by(twin));
    moves.push({ mounts: [mount.name, ...(together ? [twin.name] : [])], ways });
  }
  return moves;
}
