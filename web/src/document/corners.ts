/** Springs, shocks, stops, straps and the anti-roll bar of a design, which may have none; and changing them. */

import type { Document, Point } from "./document";

export type Corners = NonNullable<Document["corners"]>;
export type Shock = NonNullable<Corners["shocks"]>[number];
export type Stop = NonNullable<Corners["stops"]>[number];
export type Strap = NonNullable<Corners["straps"]>[number];
export type Bar = NonNullable<Corners["anti_roll"]>;
export type Listed = "shocks" | "stops" | "straps";
export type Strut = Shock | Stop | Strap;
const LISTED: readonly Listed[] = ["shocks", "stops", "straps"];

/** A list of the corners: a file may leave it out. */
const listOf = (corners: Partial<Corners> | null | undefined, listed: Listed): Strut[] =>
  corners?.[listed] ?? [];

export const shocksOf = (document: Document) => listOf(document.corners, "shocks") as Shock[];
export const stopsOf = (document: Document) => listOf(document.corners, "stops") as Stop[];
export const strapsOf = (document: Document) => listOf(document.corners, "straps") as Strap[];
export const barOf = (document: Document): Bar | null => document.corners?.anti_roll ?? null;

export interface Found {
  listed: Listed;
  strut: Strut;
}

/** Every shock, stop and strap, in the file's order. */
export const strutsOf = (document: Document): Found[] => [
  ...shocksOf(document).map((strut): Found => ({ listed: "shocks", strut })),
  ...stopsOf(document).map((strut): Found => ({ listed: "stops", strut })),
  ...strapsOf(document).map((strut): Found => ({ listed: "straps", strut })),
];

export const strutOf = (document: Document, id: string): Found | undefined =>
  strutsOf(document).find(({ strut }) => strut.id === id);

export const isShock = (strut: Strut): strut is Shock => "extended" in strut;
export const isStop = (strut: Strut): strut is Stop => "free" in strut;

/** What sort a shock is, said or not. */
export const sortOf = (shock: Shock): NonNullable<Shock["kind"]> =>
  shock.kind ?? (shock.spring ? "coilover" : shock.air ? "air_shock" : "damper");

const WITHIN_MM = 0.01;

const mirrors = (a: Point, b: Point): boolean =>
  Math.abs(a[0] - b[0]) < WITHIN_MM && Math.abs(a[1] + b[1]) < WITHIN_MM && Math.abs(a[2] - b[2]) < WITHIN_MM;

/** Its mirror image, if there is one: both its points stand across from this one's. */
export function twinOf(document: Document, { listed, strut }: Found): Strut | undefined {
  return strutsOf(document).find(
    (other) =>
      other.listed === listed &&
      other.strut.id !== strut.id &&
      Math.abs(strut.axle.at[1]) >= WITHIN_MM &&
      mirrors(other.strut.axle.at as Point, strut.axle.at as Point) &&
      mirrors(other.strut.frame.at as Point, strut.frame.at as Point),
  )?.strut;
}

const empty = (): Corners => ({ shocks: [], stops: [], straps: [] });

function withCorners(document: Document, change: (corners: Corners) => Corners): Document {
  const corners = change(document.corners ?? empty());
  const none = LISTED.every((listed) => listOf(corners, listed).length === 0);
  return { ...document, corners: none && !corners.anti_roll ? null : corners };
}

/** The sizes of one changed, and of its mirror image with it; `null` leaves both out. */
export function withStrut(
  document: Document,
  found: Found,
  change: ((strut: Strut) => Strut) | null,
): Document {
  const ids = [found.strut.id, twinOf(document, found)?.id];
  const gone = change === null ? ids : [];
  const changed = withCorners(document, (corners) => ({
    ...corners,
    [found.listed]: listOf(corners, found.listed)
      .filter((one) => !gone.includes(one.id))
      .map((one) => (change && ids.includes(one.id) ? change(one) : one)),
  }));
  return change === null ? forgotten(changed, ids) : changed;
}

/** Without what locks, pairs, zones and keep-outs say of parts that are gone. */
function forgotten(document: Document, ids: (string | undefined)[]): Document {
  const own = (name: string) => ids.some((id) => id !== undefined && name.startsWith(`${id}.`));
  const locks = Object.fromEntries(Object.entries(document.locks ?? {}).filter(([name]) => !own(name)));
  const unpaired = (document.unpaired ?? []).filter((name) => !own(name));
  return {
    ...document,
    locks: Object.keys(locks).length ? locks : null,
    unpaired: unpaired.length ? unpaired : null,
  };
}

export const withBar = (document: Document, bar: Bar | null): Document =>
  withCorners(document, (corners) => ({ ...corners, anti_roll: bar }));

export const withSettling = (document: Document, settling: number | null): Document =>
  withCorners(document, (corners) => ({ ...corners, settling }));
