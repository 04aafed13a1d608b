/** What the cut sheet changes in a design: ends, tubes and brackets, each with its mirror image. */

import type { Schemas } from "../../api/client";
import {
  type Document,
  type JointKind,
  pairOf,
  partnerOf,
  type Point,
  type Spot,
  spotsOf,
  withJoint,
} from "../../document/document";

export type Bracket = NonNullable<Document["brackets"]>[number];
export type Tube = Schemas["BentTube"];

/** The document with that end at a mount and at its mirror image; a generic one comes into its catalog. */
export function withEnd(
  document: Document,
  mount: Spot,
  entry: string,
  generic: JointKind | undefined,
): Document {
  const joints = { ...document.joints };
  if (!joints[entry] && generic) joints[entry] = generic;
  return withJoint({ ...document, joints }, mount, entry);
}

const sized = <T extends { tube?: unknown }>(part: T, size: Partial<Tube>): T => ({
  ...part,
  tube: { ...(part.tube as object | undefined), ...size },
});

/** The document with a bar’s tube of that size, and its mirror image’s. */
export function withTube(document: Document, part: string, size: Partial<Tube>): Document {
  const both = [part, pairOf(document, part)];
  const links = document.links.map((link) => (both.includes(link.id) ? sized(link, size) : link));
  const own = document.lateral && (part === "panhard" || part.startsWith("watts"));
  return {
    ...document,
    links,
    lateral: own && document.lateral ? sized(document.lateral as { tube?: unknown }, size) : document.lateral,
  } as Document;
}

/** A bar’s tube as the file has it. */
export const tubeOf = (document: Document, part: string): Partial<Tube> =>
  ((document.links.find(({ id }) => id === part) as { tube?: Partial<Tube> } | undefined)?.tube ??
    ((part === "panhard" || part.startsWith("watts")) &&
      (document.lateral as { tube?: Partial<Tube> } | null)?.tube)) ||
  {};

/** Mounts that a bracket of two plates may hold. */
export const bracketed = (document: Document): Spot[] =>
  spotsOf(document).filter(
    ({ holds, kind }) => holds && !/^radius_arm\.axle\.|^watts\.pivot$|^slider\.axle$/.test(kind),
  );

export const FACES = [
  ["tube", "Saddles the axle tube"],
  ["0 0 -1", "Hangs under a face"],
  ["0 0 1", "Stands on a face"],
  ["0 -1 0", "On a face to its left"],
  ["0 1 0", "On a face to its right"],
  ["-1 0 0", "On a face ahead"],
  ["1 0 0", "On a face behind"],
] as const;
export type Face = (typeof FACES)[number][0];

const FACE_MM = 50;
const FOOT_MM = 90;

/** A bracket at a mount that stands as it is asked to; on a face, so far from its hole. */
export function bracketAt(mount: Spot, face: Face, id: string): Bracket {
  const plain = {
    id,
    mounts: [mount.name],
    plate: 6.35,
    edge: 25.4,
    washer: 0,
    shrink: 0.8,
    holes: [],
    tips: "feather" as const,
  };
  return { ...plain, ...standing(mount.at, face, FACE_MM, FOOT_MM) };
}

export const standing = (
  at: Point,
  face: Face,
  away: number,
  foot: number,
): Pick<Bracket, "base" | "foot"> => {
  if (face === "tube") return { base: { kind: "tube" }, foot: null };
  const normal = face.split(" ").map(Number) as [number, number, number];
  const place = at.map((v, i) => v - normal[i]! * away) as [number, number, number];
  return { base: { kind: "face", at: place, normal }, foot };
};

export const faceOf = ({ base }: Bracket): Face | null => {
  if (base.kind === "tube") return "tube";
  const said = base.normal.map((v) => Math.sign(Math.round(v * 1e6))).join(" ");
  return FACES.some(([key]) => key === said) ? (said as Face) : null;
};

/** How far a bracket’s first hole is from its face, mm. */
export function awayOf(document: Document, { base, mounts }: Bracket): number | null {
  const at = spotsOf(document).find(({ name }) => name === mounts[0])?.at;
  if (base.kind === "tube" || !at) return null;
  const long = Math.hypot(...base.normal);
  return base.normal.reduce((sum, v, i) => sum + ((at[i]! - base.at[i]!) * v) / long, 0);
}

/** The document with another bracket after its own, and its mirror image’s at the mount that goes with it. */
export function withBracketAt(document: Document, mount: Spot, face: Face): Document {
  const partner = partnerOf(document, mount);
  return [mount, ...(partner ? [partner] : [])].reduce((now, one) => {
    const taken = new Set((now.brackets ?? []).map(({ id }) => id));
    const id = Array.from({ length: taken.size + 1 }, (_, n) => `b${n + 1}`).find(
      (name) => !taken.has(name),
    )!;
    const side = one === mount ? face : mirrored(face);
    return { ...now, brackets: [...(now.brackets ?? []), bracketAt(one, side, id)] };
  }, document);
}

/** A face as the truck’s other side has it. */
const mirrored = (face: Face): Face => (face === "0 -1 0" ? "0 1 0" : face === "0 1 0" ? "0 -1 0" : face);

/** The other of a mirrored pair of brackets: the one at the mount that goes with this one’s. */
export function twinOf(document: Document, bracket: Bracket): Bracket | undefined {
  const mount = spotsOf(document).find(({ name }) => name === bracket.mounts[0]);
  const partner = mount && partnerOf(document, mount);
  return partner && (document.brackets ?? []).find(({ mounts }) => mounts[0] === partner.name);
}

type Sizes = Pick<Bracket, "plate" | "edge" | "washer" | "shrink"> & {
  weld: number | null;
  away: number | null;
  foot: number | null;
};

export const sizesOf = (document: Document, bracket: Bracket): Sizes => {
  const { plate, edge, washer, shrink, foot, weld } = bracket;
  return {
    plate,
    edge,
    washer,
    shrink,
    weld: weld ?? null,
    foot: foot ?? null,
    away: awayOf(document, bracket),
  };
};

/** The document with a bracket’s sizes, and its twin’s; null takes both out. */
export function withSizes(document: Document, bracket: Bracket, sizes: Sizes | null): Document {
  const both = [bracket.id, twinOf(document, bracket)?.id];
  const brackets = (document.brackets ?? []).flatMap((one) => {
    if (!both.includes(one.id)) return [one];
    if (sizes === null) return [];
    const { away, foot, ...plain } = sizes;
    const at = spotsOf(document).find(({ name }) => name === one.mounts[0])?.at;
    const face = faceOf(one);
    const base =
      at && face && away !== null ? standing(at, face, away, foot ?? FOOT_MM) : { base: one.base, foot };
    return [{ ...one, ...plain, ...base }];
  });
  return { ...document, brackets };
}

/** The document with brackets changed, one and its mirror image, each by what is said for its own side. */
function withBoth(document: Document, bracket: Bracket, change: (one: Bracket) => Bracket): Document {
  const both = [bracket.id, twinOf(document, bracket)?.id];
  const brackets = (document.brackets ?? []).map((one) => (both.includes(one.id) ? change(one) : one));
  return { ...document, brackets };
}

/** Mounts that one bracket may hold beside its own: of the same body, and in no other bracket. */
export function mountsBeside(document: Document, bracket: Bracket): Spot[] {
  const taken = new Set((document.brackets ?? []).flatMap(({ mounts }) => mounts));
  const on = spotsOf(document).find(({ name }) => name === bracket.mounts[0])?.on;
  return bracketed(document).filter((spot) => spot.on === on && !taken.has(spot.name));
}

/** The document with another mount in a bracket, and its mirror image in the twin. */
export const withMountIn = (document: Document, bracket: Bracket, mount: Spot): Document =>
  withBoth(document, bracket, (one) => {
    const name = one.id === bracket.id ? mount.name : partnerOf(document, mount)?.name;
    return name === undefined ? one : { ...one, mounts: [...one.mounts, name] };
  });

/** The document with a bracket holding its first mount alone, and its twin. */
export const withFirstMount = (document: Document, bracket: Bracket): Document =>
  withBoth(document, bracket, (one) => ({ ...one, mounts: one.mounts.slice(0, 1) }));

const THERE_MM = 0.05;

/** The holes of the row that a bracket’s mounts stand in, without those they stand in; none without a row. */
export function rowOf(document: Document, { mounts }: Bracket): Point[] {
  const zone = (document.room?.zones ?? []).find(
    (one) => one.region.kind === "holes" && one.mounts.some((name) => mounts.includes(name)),
  );
  const at = spotsOf(document).filter(({ name }) => mounts.includes(name));
  const holes = zone?.region.kind === "holes" ? zone.region.at : [];
  const free = (hole: readonly number[]) =>
    at.every((spot) => Math.hypot(...spot.at.map((v, i) => v - hole[i]!)) > THERE_MM);
  return holes.filter(free);
}

/** The document with every hole of their rows drilled into a bracket and its twin. */
export const withRow = (document: Document, bracket: Bracket): Document =>
  withBoth(document, bracket, (one) => ({
    ...one,
    holes: rowOf(document, one),
  }));

/** The document with a bracket’s tips cut square or left to run out, and its twin’s. */
export const withTips = (document: Document, bracket: Bracket, tips: Bracket["tips"]): Document =>
  withBoth(document, bracket, (one) => ({ ...one, tips }));
