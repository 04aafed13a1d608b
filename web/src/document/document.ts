/** The design document on screen: its mounts moved, locked, paired, and compared with another's. */

import { bodiesOf, type Document, type Path, type Spot, spotsOf, valueAt } from "./parts";
import { type KeepOut, withShared } from "./room";
import type { ChassisPoint as Point } from "../units/brands";

export { bodiesOf, type Document, type Spot, spotsOf, valueAt, words } from "./parts";
export type { ChassisPoint as Point } from "../units/brands";

export const mountLabel = (mount: Spot): string => `${mount.partName}, ${mount.end}`;

/** The document with one value replaced; everything else is shared with the original. */
function replaced<T>(value: T, path: Path, to: unknown): T {
  const [head, ...rest] = path;
  if (head === undefined) return to as T;
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as Record<
    string | number,
    unknown
  >;
  copy[head] = replaced(copy[head], rest, to);
  return copy as T;
}

export const withMount = (document: Document, mount: Spot, at: Point): Document =>
  replaced(document, mount.path, at);

const SAME_MM = 0.01;

/** The mount that mirrors this one across the truck's centerline, if there is one. */
export function mirrorOf(document: Document, mount: Spot): Spot | undefined {
  const [x, y, z] = mount.at;
  return spotsOf(document).find(
    (other) =>
      other.key !== mount.key &&
      other.kind === mount.kind &&
      Math.abs(other.at[0] - x) < SAME_MM &&
      Math.abs(other.at[1] + y) < SAME_MM &&
      Math.abs(other.at[2] - z) < SAME_MM,
  );
}

/** The mount of the other side: its mirror image, or, once they are parted, the one that is named or stands like it. */
export function counterpartOf(document: Document, mount: Spot): Spot | undefined {
  const mirror = mirrorOf(document, mount);
  if (mirror) return mirror;
  const alike = spotsOf(document).filter((s) => s.part !== mount.part && s.kind === mount.kind);
  const named = otherSide(mount.name);
  const [x, y, z] = mount.at;
  const off = ({ at }: Spot) => Math.hypot(at[0] - x, at[1] + y, at[2] - z);
  return (
    alike.find((s) => s.name === named) ??
    alike.filter((s) => s.at[1] * y < 0 && off(s) < LIKE_MM).sort((a, b) => off(a) - off(b))[0]
  );
}

const TIRES: Record<string, string> = { "tire-left": "tire-right", "tire-right": "tire-left" };

/** The part of the other side that is this one's pair, by where its points stand; undefined where there is none. */
export function pairOf(document: Document, part: string): string | undefined {
  if (part in TIRES) return TIRES[part];
  const spot = spotsOf(document).find((one) => one.part === part);
  const other = spot && counterpartOf(document, spot);
  return other && other.part !== part ? other.part : undefined;
}

/** Whether it is the right one of a pair. */
export const isRightOfPair = (document: Document, part: string): boolean =>
  pairOf(document, part) !== undefined &&
  (spotsOf(document).find((one) => one.part === part)?.at[1] ?? 0) < 0;

const LIKE_MM = 250;
const otherSide = (name: string): string =>
  name.replace(/left|right/g, (side) => (side === "left" ? "right" : "left"));

/** The document with a mount at the mirror image of its counterpart, the two together from now on. */
export function asOther(document: Document, mount: Spot): Document {
  const other = counterpartOf(document, mount);
  if (!other) return document;
  const [x, y, z] = other.at;
  const copied = withMount(document, mount, [x, -y, z]);
  return withPairing(
    copied,
    spotsOf(copied).find((s) => s.key === mount.key)!,
    true,
  );
}

export const AXES = ["x", "y", "z"] as const;
export type Axis = (typeof AXES)[number];

/** Along which axes a mount must stay. */
export const locksOf = (document: Document, mount: Spot): string =>
  (document.locks?.[mount.name] ?? "") + (mount.was === null ? "" : (document.locks?.[mount.was] ?? ""));

export const isPaired = (document: Document, mount: Spot): boolean =>
  !(document.unpaired ?? []).some((name) => name === mount.name || name === mount.was);

/** The mirror image that moves with a mount, if it has one and they are paired. */
export function partnerOf(document: Document, mount: Spot): Spot | undefined {
  const twin = mirrorOf(document, mount);
  return twin && isPaired(document, mount) && isPaired(document, twin) ? twin : undefined;
}

/** The document with an axis of a mount, and of its partner, locked or let go. */
export function withLock(document: Document, mount: Spot, axis: Axis, locked: boolean): Document {
  const locks = new Map<string, string>(Object.entries(document.locks ?? {}));
  for (const one of [mount, partnerOf(document, mount)]) {
    if (!one) continue;
    const before = locksOf(document, one);
    if (one.was !== null) locks.delete(one.was);
    const kept = AXES.filter((a) => (a === axis ? locked : before.includes(a))).join("");
    if (kept) locks.set(one.name, kept);
    else locks.delete(one.name);
  }
  return { ...document, locks: Object.fromEntries(locks) as Document["locks"] };
}

/** The document with mounts held in place along every axis, or all let go. */
export function withHeld(document: Document, held: (mount: Spot) => boolean): Document {
  const locks = Object.fromEntries(
    spotsOf(document)
      .filter(held)
      .map((m) => [m.name, AXES.join("")]),
  );
  return { ...document, locks: locks as Document["locks"] };
}

/** The document with a mount and its mirror image (or the other, where it is not that any more) moving together or alone. */
export function withPairing(document: Document, mount: Spot, paired: boolean, other?: Spot): Document {
  const both = [mount, other ?? mirrorOf(document, mount)].filter((one) => one !== undefined);
  const others = (document.unpaired ?? []).filter(
    (n) => !both.some((one) => n === one.name || n === one.was),
  );
  return { ...document, unpaired: paired ? others : [...others, ...both.map((one) => one.name)] };
}

/** The mount's own entry of the joint catalog: null where none is said, undefined where it has no joint of its own. */
export function jointOf(document: Document, mount: Spot): string | null | undefined {
  if (mount.path.at(-1) !== "at" || !mount.holds || mount.kind === "watts.pivot") return undefined;
  const part = valueAt(document, mount.path.slice(0, -1)) as { joint?: string | null };
  return part.joint ?? null;
}

/** The document with that joint at a mount, and at the mirror image that moves with it. */
export const withJoint = (document: Document, mount: Spot, joint: string | null): Document =>
  withBoth(document, mount, "joint", joint);

/** What a mount has beside its place, set at it and at its mirror image. */
const withBoth = (document: Document, mount: Spot, what: string, value: unknown): Document =>
  [mount, partnerOf(document, mount)].reduce(
    (next, one) => (one ? replaced(next, [...one.path.slice(0, -1), what], value) : next),
    document,
  );

/** A mount's bolt: its diameter, mm, its yield, MPa, and in how many planes it is sheared. */
export interface Fastener {
  diameter: number;
  yield: number;
  planes: number;
}

/** The document with that bolt at a mount, and at its mirror image; null: nobody has said it. */
export const withFastener = (document: Document, mount: Spot, fastener: Fastener | null): Document =>
  withBoth(document, mount, "fastener", fastener);

/** The document with the bolt of a mount's joint turned so; null: as it is without being said, square to its link. */
export const withBolt = (document: Document, mount: Spot, bolt: Point | null): Document =>
  replaced(document, [...mount.path.slice(0, -1), "bolt"], bolt);

/** The direction of a mount's bolt: as said, or else square to its link and level, as nearly across as that is. */
export function boltAxis(document: Document, mount: Spot): Point {
  const part = valueAt(document, mount.path.slice(0, -1)) as { bolt?: readonly number[] | null };
  if (part.bolt) return unit(part.bolt as unknown as Point);
  const body = bodiesOf(document).find(({ a, b }) => a.name === mount.name || b.name === mount.name);
  if (!body) return [0, 1, 0];
  const along = unit(body.a.at.map((v, i) => v - body.b.at[i]!) as unknown as Point);
  const across: Point = [along[1] * -1, along[0], 0];
  const flat = Math.hypot(...across);
  if (flat < 1e-6) return [0, 1, 0];
  const level = unit(across);
  return level[1] < 0 ? (level.map((v) => -v) as Point) : level;
}

function unit(way: Point): Point {
  const size = Math.hypot(...way);
  return way.map((v) => v / size) as Point;
}

/** The document with the bolt of a mount turned so, and its partner's to the mirror image of that. */
export function withBoltTurned(document: Document, mount: Spot, bolt: Point): Document {
  const partner = partnerOf(document, mount);
  const own = withBolt(document, mount, bolt);
  return partner ? withBolt(own, partner, [-bolt[0], bolt[1], -bolt[2]]) : own;
}

/** The document with other figures for an entry of the joint catalog. */
export const withJointKind = (document: Document, entry: string, kind: JointKind): Document => ({
  ...document,
  joints: { ...document.joints, [entry]: kind },
});

/** An end with what it is rated for, N; null: that is not known. */
export function rated(kind: JointKind, newtons: number | null): JointKind {
  const copy = { ...kind };
  if (newtons === null) delete copy.rating;
  else copy.rating = newtons;
  return copy;
}

export type JointKind = NonNullable<Document["joints"]>[string];

/** The document with mounts moved as one: each by the same, their partners by its mirror image; locks hold. */
export function movedTogether(document: Document, mounts: Spot[], by: Point): Document {
  const keys = new Set(mounts.map((m) => m.key));
  let next = document;
  for (const mount of mounts) {
    const partner = partnerOf(document, mount);
    const locks = locksOf(document, mount) + (partner ? locksOf(document, partner) : "");
    const free = by.map((v, i) => (locks.includes(AXES[i]!) ? 0 : v)) as Point;
    const to = (m: Spot, sign: number): Point => [
      m.at[0] + free[0], m.at[1] + sign * free[1], m.at[2] + free[2],
    ]; // prettier-ignore
    next = withMount(next, mount, to(mount, 1));
    if (partner && !keys.has(partner.key)) next = withMount(next, partner, to(partner, -1));
  }
  return next;
}

/** The document with a mount somewhere else, and its partner at the mirror image of that. */
export const moved = (document: Document, mount: Spot, at: Point): Document =>
  movedTogether(document, [mount], at.map((v, i) => v - mount.at[i]!) as Point);

/** The document with mounts where an answer of the core says, by their names. */
export function placed(document: Document, at: Record<string, readonly number[]>): Document {
  return spotsOf(document).reduce(
    (next, mount) => (at[mount.name] ? withMount(next, mount, [...at[mount.name]!] as Point) : next),
    document,
  );
}

/** The document with the figures that it takes from a truck, by their paths; everything else is shared with it. */
export const overlaid = <T>(document: T, over: Record<string, unknown>): T =>
  Object.entries(over).reduce(
    (next, [path, value]) =>
      path === SHARED_ROOM ? sharing(next, value as KeepOut[]) : replaced(next, path.split("."), value),
    document,
  );

/** Where a truck’s own keep-outs stand in what designs take from it: beside a design’s own, not in their place. */
const SHARED_ROOM = "room.keep_outs";

function sharing<T>(document: T, shared: readonly KeepOut[]): T {
  const { room } = document as { room?: Document["room"] };
  const next = withShared(room?.keep_outs ?? [], shared);
  if (next.length === 0 && !room) return document;
  return { ...document, room: { ...room, keep_outs: next } };
}

/** The mounts that stand elsewhere in two documents, with both places; null where one lacks the mount. */
export function differences(
  ours: Document,
  theirs: Document,
): { label: string; ours: Point | null; theirs: Point | null }[] {
  const there = new Map(spotsOf(theirs).map((m) => [m.key, m]));
  const here = new Map(spotsOf(ours).map((m) => [m.key, m]));
  return [...new Set([...here.keys(), ...there.keys()])]
    .map((key) => ({ mine: here.get(key), other: there.get(key) }))
    .filter(({ mine, other }) => JSON.stringify(mine?.at) !== JSON.stringify(other?.at))
    .map(({ mine, other }) => ({
      label: mountLabel((mine ?? other)!),
      ours: mine?.at ?? null,
      theirs: other?.at ?? null,
    }));
}
