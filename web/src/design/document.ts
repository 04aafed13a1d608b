/** The design document on screen, and its mounts as things that can be named, found and moved. */

import type { components } from "../api/schema";

export type Document = components["schemas"]["RevisionOut"]["document"];
export type Point = [number, number, number];
export type Body = "axle" | "frame";

/** One movable point of the design. `path` is where it stands in the file. */
export interface MountPoint {
  key: string;
  /** What the core calls it: `upper-left.frame`, `watts.pivot`. */
  name: string;
  path: (string | number)[];
  bar: string;
  barName: string;
  end: string;
  body: Body;
  at: Point;
}

/** An id of the file in words: `lower-left` is Lower left. */
export const words = (id: string): string => {
  const text = id.replaceAll(/[-_]+/g, " ").trim();
  return text.charAt(0).toUpperCase() + text.slice(1);
};

/** Every mount, in the file's order. */
export function mountsOf(document: Document): MountPoint[] {
  const found: MountPoint[] = [];
  const add = (path: (string | number)[], bar: string, end: string, body: Body, at: Point) => {
    const id = path[0] === "links" ? bar : document.lateral!.kind;
    const name = [id, ...path.slice(path[0] === "links" ? 2 : 1).filter((part) => part !== "at")].join(".");
    found.push({ key: path.join("."), name, path, bar, barName: words(bar), end, body, at });
  };
  document.links.forEach((link, n) => {
    if (link.kind === "radius_arm") {
      link.axle.at.forEach((bolt, b) =>
        add(["links", n, "axle", "at", b], link.id, `axle bolt ${b + 1}`, "axle", bolt),
      );
    } else {
      add(["links", n, "axle", "at"], link.id, "axle end", "axle", link.axle.at);
    }
    add(["links", n, "frame", "at"], link.id, "frame end", "frame", link.frame.at);
  });
  const lateral = document.lateral;
  if (lateral?.kind === "panhard") {
    add(["lateral", "axle", "at"], "panhard bar", "axle end", "axle", lateral.axle.at);
    add(["lateral", "frame", "at"], "panhard bar", "frame end", "frame", lateral.frame.at);
  } else if (lateral?.kind === "watts") {
    const other: Body = lateral.pivot.on === "axle" ? "frame" : "axle";
    add(["lateral", "pivot", "at"], "Watts link", "crank pivot", lateral.pivot.on, lateral.pivot.at);
    add(["lateral", "left", "at"], "Watts link", "left rod end", other, lateral.left.at);
    add(["lateral", "right", "at"], "Watts link", "right rod end", other, lateral.right.at);
  } else if (lateral?.kind === "slider") {
    add(["lateral", "axle", "at"], "slider", "axle point", "axle", lateral.axle.at);
  }
  return found;
}

export const mountLabel = (mount: MountPoint): string => `${mount.barName}, ${mount.end}`;

/** The document with one value replaced; everything else is shared with the original. */
function replaced<T>(value: T, path: (string | number)[], to: unknown): T {
  const [head, ...rest] = path;
  if (head === undefined) return to as T;
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as Record<
    string | number,
    unknown
  >;
  copy[head] = replaced(copy[head], rest, to);
  return copy as T;
}

export const withMount = (document: Document, mount: MountPoint, at: Point): Document =>
  replaced(document, mount.path, at);

const SAME_MM = 0.01;

/** The mount that mirrors this one across the truck's centerline, if there is one. */
export function mirrorOf(document: Document, mount: MountPoint): MountPoint | undefined {
  const [x, y, z] = mount.at;
  if (Math.abs(y) < SAME_MM) return undefined;
  const kind = kindOf(document, mount);
  return mountsOf(document).find(
    (other) =>
      other.key !== mount.key &&
      other.body === mount.body &&
      kindOf(document, other) === kind &&
      Math.abs(other.at[0] - x) < SAME_MM &&
      Math.abs(other.at[1] + y) < SAME_MM &&
      Math.abs(other.at[2] - z) < SAME_MM,
  );
}

const kindOf = (document: Document, mount: MountPoint): string =>
  mount.path[0] === "links" ? document.links[Number(mount.path[1])]!.kind : "lateral";

export const AXES = ["x", "y", "z"] as const;
export type Axis = (typeof AXES)[number];

/** Along which axes a mount must stay. */
export const locksOf = (document: Document, mount: MountPoint): string => document.locks?.[mount.name] ?? "";

export const isPaired = (document: Document, mount: MountPoint): boolean =>
  !(document.unpaired ?? []).includes(mount.name);

/** The mirror image that moves with a mount, if it has one and they are paired. */
export function partnerOf(document: Document, mount: MountPoint): MountPoint | undefined {
  const twin = mirrorOf(document, mount);
  return twin && isPaired(document, mount) && isPaired(document, twin) ? twin : undefined;
}

/** The document with an axis of a mount, and of its partner, locked or let go. */
export function withLock(document: Document, mount: MountPoint, axis: Axis, locked: boolean): Document {
  const locks = new Map<string, string>(Object.entries(document.locks ?? {}));
  for (const one of [mount, partnerOf(document, mount)]) {
    if (!one) continue;
    const kept = AXES.filter((a) => (a === axis ? locked : (locks.get(one.name) ?? "").includes(a))).join("");
    if (kept) locks.set(one.name, kept);
    else locks.delete(one.name);
  }
  return { ...document, locks: Object.fromEntries(locks) as Document["locks"] };
}

/** The document with a mount and its mirror image moving together or each alone. */
export function withPairing(document: Document, mount: MountPoint, paired: boolean): Document {
  const names = [mount.name, mirrorOf(document, mount)?.name].filter((n): n is string => n !== undefined);
  const others = (document.unpaired ?? []).filter((n) => !names.includes(n));
  return { ...document, unpaired: paired ? others : [...others, ...names] };
}

/** The document with mounts moved as one: each by the same, their partners by its mirror image; locks hold. */
export function movedTogether(document: Document, mounts: MountPoint[], by: Point): Document {
  const keys = new Set(mounts.map((m) => m.key));
  let next = document;
  for (const mount of mounts) {
    const partner = partnerOf(document, mount);
    const locks = locksOf(document, mount) + (partner ? locksOf(document, partner) : "");
    const free = by.map((v, i) => (locks.includes(AXES[i]!) ? 0 : v)) as Point;
    const to = (m: MountPoint, sign: number): Point => [
      m.at[0] + free[0], m.at[1] + sign * free[1], m.at[2] + free[2],
    ]; // prettier-ignore
    next = withMount(next, mount, to(mount, 1));
    if (partner && !keys.has(partner.key)) next = withMount(next, partner, to(partner, -1));
  }
  return next;
}

/** The document with a mount somewhere else, and its partner at the mirror image of that. */
export const moved = (document: Document, mount: MountPoint, at: Point): Document =>
  movedTogether(document, [mount], at.map((v, i) => v - mount.at[i]!) as Point);

/** The document with mounts where an answer of the core says, by their names. */
export function placed(document: Document, at: Record<string, readonly number[]>): Document {
  return mountsOf(document).reduce(
    (next, mount) => (at[mount.name] ? withMount(next, mount, [...at[mount.name]!] as Point) : next),
    document,
  );
}

/** The mounts that stand elsewhere in two documents, with both places; null where one lacks the mount. */
export function differences(
  ours: Document,
  theirs: Document,
): { label: string; ours: Point | null; theirs: Point | null }[] {
  const there = new Map(mountsOf(theirs).map((m) => [m.key, m]));
  const here = new Map(mountsOf(ours).map((m) => [m.key, m]));
  return [...new Set([...here.keys(), ...there.keys()])]
    .map((key) => ({ mine: here.get(key), other: there.get(key) }))
    .filter(({ mine, other }) => JSON.stringify(mine?.at) !== JSON.stringify(other?.at))
    .map(({ mine, other }) => ({
      label: mountLabel((mine ?? other)!),
      ours: mine?.at ?? null,
      theirs: other?.at ?? null,
    }));
}
