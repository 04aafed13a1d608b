/** What a mount under the hand lines up with: other mounts, and links of the same length. */

import { bodiesOf, type Document, partnerOf, type Point, type Spot, spotsOf } from "../document/document";
import { barOf, distance } from "./bars";

/** Nearer than this is the same for a tape. */
const SAME_MM = 0.4;

export interface Guide {
  kind: "level" | "plumb" | "beside" | "length";
  /** From the moved mount to what it lines up with, as they stand at ride. */
  from: Point;
  to: Point;
  words: string;
}

const KINDS = [
  ["plumb", 0],
  ["beside", 1],
  ["level", 2],
] as const;

/** Everything the mount lines up with as it stands; one of each kind, the nearest. */
export function guidesFor(document: Document, key: string): Guide[] {
  const mounts = spotsOf(document);
  const mount = mounts.find((m) => m.key === key);
  if (!mount) return [];
  const partner = partnerOf(document, mount)?.key;
  const others = mounts.filter((m) => m.key !== key && m.key !== partner);
  const found: Guide[] = [];
  for (const [kind, axis] of KINDS) {
    const near = others
      .filter((m) => Math.abs(m.at[axis] - mount.at[axis]) < SAME_MM)
      .sort((a, b) => distance(a.at, mount.at) - distance(b.at, mount.at))[0];
    if (near && !(kind === "beside" && Math.abs(mount.at[1]) < SAME_MM))
      found.push({
        kind,
        from: mount.at,
        to: near.at,
        words: `${SAID[kind]} ${near.partName.toLowerCase()} ${near.end}`,
      });
  }
  const own = barOf(document, mount);
  const mirrored = partner === undefined ? undefined : mounts.find((m) => m.key === partner);
  const twin = mirrored && barOf(document, mirrored)?.id;
  const long = (bar: { a: { at: Point }; b: { at: Point } }) => distance(bar.a.at, bar.b.at);
  const same =
    own &&
    bodiesOf(document).find(
      (bar) =>
        bar.shape === own.shape &&
        bar.id !== own.id &&
        bar.id !== twin &&
        Math.abs(long(bar) - long(own)) < SAME_MM,
    );
  if (own && same)
    found.push({ kind: "length", from: own.a.at, to: own.b.at, words: `same length as ${same.words}` });
  return found;
}

const SAID = { level: "level with", plumb: "plumb with", beside: "in line with" } as const;

/** The place, with each coordinate that comes within reach of another mount's taken over from it. */
export function caught(
  document: Document,
  mount: Spot,
  at: Point,
  reach: number,
  axes: readonly number[],
): Point {
  const others = spotsOf(document).filter(
    (m) => m.key !== mount.key && m.key !== partnerOf(document, mount)?.key,
  );
  return at.map((value, axis) => {
    if (!axes.includes(axis)) return value;
    const near = others
      .map((m) => m.at[axis]!)
      .filter((other) => Math.abs(other - value) < reach)
      .sort((a, b) => Math.abs(a - value) - Math.abs(b - value))[0];
    return near ?? value;
  }) as Point;
}
