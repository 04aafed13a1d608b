/** Keep-outs of a design: added, left out, typical ones to start from. Points mm, chassis axes, at ride. */

import type { ChassisPoint as Point } from "../units/brands";
import { type Document, spotsOf } from "./parts";
import { mirroredSolid, pointsOf, type Region } from "./solids";

export type KeepOut = NonNullable<Document["room"]>["keep_outs"][number];

/** A keep-out before it has an id. */
export type Draft = Pick<KeepOut, "name" | "on" | "gap" | "except" | "solid">;

export const keepOutsOf = (document: Document): readonly KeepOut[] => document.room?.keep_outs ?? [];

/** What a keep-out is not held against; a file may say nothing of it. */
export const boltedTo = (one: KeepOut): readonly string[] => (one as Partial<KeepOut>).except ?? [];

/** The mounts of a zone; a file may say nothing of them. */
export const mountsOf = (zone: Zone): readonly string[] => (zone as Partial<Zone>).mounts ?? [];

/** What is wanted clear of a keep-out, mm. */
export const gapOf = (one: KeepOut): number => (one as Partial<KeepOut>).gap ?? 25;

export type Zone = NonNullable<Document["room"]>["zones"][number];

export const zonesOf = (document: Document): readonly Zone[] => document.room?.zones ?? [];

/** Points that a view of all of it has to hold: the outermost of each keep-out. */
export const reachOf = (document: Document): Point[] =>
  keepOutsOf(document).flatMap(({ solid }) => pointsOf(solid));

/** How far a keep-out reaches, its lowest corner and its highest. */
function boundsOf({ solid }: KeepOut): number[] {
  const points = pointsOf(solid);
  const ends = (most: (...of: number[]) => number) => [0, 1, 2].map((i) => most(...points.map((p) => p[i]!)));
  return [...ends(Math.min), ...ends(Math.max)];
}

/** The keep-out of the other side that reaches as far there as this one does here; undefined where there is none. */
export function keepOutAcross(document: Document, id: string): string | undefined {
  const one = keepOutsOf(document).find((other) => other.id === id);
  if (!one) return undefined;
  const [x, y, z, X, Y, Z] = boundsOf(one) as [number, number, number, number, number, number];
  const across = [x, -Y, z, X, -y, Z];
  return keepOutsOf(document).find(
    (other) =>
      other.id !== id &&
      other.on === one.on &&
      boundsOf(other).every((v, i) => Math.abs(v - across[i]!) < HOLE_MM),
  )?.id;
}

/** Names that parts have already: one namespace for links, bars and keep-outs. */
function taken(document: Document): Set<string> {
  const corners = document.corners;
  const struts = [...(corners?.shocks ?? []), ...(corners?.stops ?? []), ...(corners?.straps ?? [])];
  return new Set([
    ...document.links.map((link) => link.id),
    ...keepOutsOf(document).map((one) => one.id),
    ...struts.map((one) => one.id),
    ...KEPT,
  ]);
}

const KEPT = [
  "panhard", "watts-left", "watts-right", "axle", "axle-tube", "housing", "tire-left", "tire-right", "shaft", "drag-link",
  "tie-rod",
]; // prettier-ignore

const idOf = (name: string): string =>
  name.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-").replaceAll(/^-|-$/g, "") || "keep-out"; // prettier-ignore

/** An id from a name, that nothing else has. */
export function freeId(document: Document, name: string): string {
  const plain = idOf(name);
  const names = taken(document);
  for (let n = 1; ; n++) {
    const id = n === 1 ? plain : `${plain}-${n}`;
    if (!names.has(id)) return id;
  }
}

/** A keep-out or a zone, by which list it stands in and its id. */
export interface Which {
  list: "keep_outs" | "zones";
  id: string;
}

type Rooms = NonNullable<Document["room"]>;

const put = <K extends "keep_outs" | "zones">(document: Document, list: K, ones: Rooms[K]): Document => ({
  ...document,
  room: { gap: 12.7, except: [], keep_outs: [], zones: [], ...document.room, [list]: ones },
});

export const withKeepOut = (document: Document, one: Draft): Document =>
  put(document, "keep_outs", [
    ...keepOutsOf(document),
    { ...one, id: freeId(document, one.name) } as KeepOut,
  ]);

/** Whether a keep-out is the truck’s, kept once for both axles and every alternative. */
export const isShared = (one: { shared?: unknown }): boolean => one.shared === true;

/** The keep-outs of a design with the truck’s in place of those it had of it; its own stay, and come first. */
export const withShared = (own: readonly KeepOut[], shared: readonly KeepOut[]): KeepOut[] => [
  ...own.filter((one) => !isShared(one)),
  ...shared,
];

export const withZone = (document: Document, name: string, mounts: string[], region: Region): Document => {
  const taken = new Set(zonesOf(document).map((zone) => zone.id));
  const plain = idOf(name);
  let id = plain;
  for (let n = 2; taken.has(id); n++) id = `${plain}-${n}`;
  return put(document, "zones", [...zonesOf(document), { id, name, mounts, region }]);
};

/** The keep-out or zone that is meant; undefined where it is there no more. */
export const found = (document: Document, { list, id }: Which): KeepOut | Zone | undefined =>
  ((document.room?.[list] ?? []) as readonly (KeepOut | Zone)[]).find((one) => one.id === id);

/** The document with a keep-out or zone changed, left out (null), or both it and others. */
export function withChanged(
  document: Document,
  { list, id }: Which,
  change: Partial<KeepOut> | Partial<Zone> | null,
): Document {
  const ones = (document.room?.[list] ?? []) as readonly (KeepOut | Zone)[];
  const next = ones.flatMap((one) => (one.id !== id ? [one] : change ? [{ ...one, ...change }] : []));
  return put(document, list, next as Rooms[typeof list]);
}

const isZone = (one: KeepOut | Zone): one is Zone => "region" in one;

/** The solid or region of a keep-out or zone. */
export const shapeOf = (one: KeepOut | Zone): Region => (isZone(one) ? one.region : one.solid);

export const withShape = (document: Document, which: Which, shape: Region): Document =>
  withChanged(
    document,
    which,
    which.list === "zones" ? { region: shape } : { solid: shape as KeepOut["solid"] },
  );

/** The holes that a mount goes between, where it belongs in a row of them. */
export function holesOf(document: Document, mount: { name: string; was: string | null }): readonly Point[] {
  const zone = zonesOf(document).find(
    (one) =>
      one.region.kind === "holes" && mountsOf(one).some((name) => name === mount.name || name === mount.was),
  );
  return zone?.region.kind === "holes" ? zone.region.at : [];
}

/** The hole that a mount brought there falls into. */
export const nearestHole = (holes: readonly Point[], at: Point): Point =>
  [...holes].sort((a, b) => apart(a, at) - apart(b, at))[0]!;

/** The next hole from a place that way, straight ahead counting more than aside; null where there is none. */
export function nextHole(holes: readonly Point[], from: Point, way: Point): Point | null {
  const ahead = holes
    .map((hole) => {
      const by = hole.map((v, i) => v - from[i]!);
      const along = by.reduce((sum, v, i) => sum + v * way[i]!, 0);
      return { hole, along, aside: Math.hypot(...by) - along };
    })
    .filter(({ along, aside }) => along > HOLE_MM && along > aside);
  return ahead.sort((a, b) => a.along + 2 * a.aside - b.along - 2 * b.aside)[0]?.hole ?? null;
}

const HOLE_MM = 0.5;
const apart = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

const OTHER: Record<string, string> = { left: "right", right: "left", Left: "Right", Right: "Left" };
const otherSide = (text: string): string => text.replace(/left|right/gi, (side) => OTHER[side] ?? side);

/** The document with the mirror image of a keep-out or zone added, for the mounts of the other side. */
export function withMirrored(document: Document, which: Which): Document {
  const one = found(document, which);
  if (!one) return document;
  const named = otherSide(one.name || one.id);
  const name = named === (one.name || one.id) ? `${named}, other side` : named;
  if (isZone(one)) return withZone(document, name, mountsOf(one).map(otherSide), mirroredSolid(one.region));
  return withKeepOut(document, {
    ...one, name, except: boltedTo(one).map(otherSide), solid: mirroredSolid(one.solid),
  }); // prettier-ignore
}

/** A zone about where a mount stands, and its mirror image for its twin. */
export function zonedAbout(document: Document, mount: string, region: Region, name: string): Document {
  const next = withZone(document, name, [mount], region);
  const twin = otherSide(mount);
  const isThere = spotsOf(document).some((spot) => spot.name === twin);
  return twin === mount || !isThere ? next : withZone(next, otherSide(name), [twin], mirroredSolid(region));
}
