/** The design document on screen, and its mounts as things that can be named, found and moved. */

import type { components } from "../api/schema";

export type Document = components["schemas"]["RevisionOut"]["document"];
export type Point = [number, number, number];
export type Body = "axle" | "frame";

/** One movable point of the design. `path` is where it stands in the file. */
export interface MountPoint {
  key: string;
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
  const add = (path: (string | number)[], bar: string, end: string, body: Body, at: Point) =>
    found.push({ key: path.join("."), path, bar, barName: words(bar), end, body, at });
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

/** The document with a mount moved, and its mirror image with it when `paired`. */
export function moved(document: Document, mount: MountPoint, at: Point, paired: boolean): Document {
  const twin = paired ? mirrorOf(document, mount) : undefined;
  const once = withMount(document, mount, at);
  return twin ? withMount(once, twin, [at[0], -at[1], at[2]]) : once;
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
