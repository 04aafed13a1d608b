/**
 * What a design is made of, read by the core's table of parts: its points, and what is drawn between them. The table is
 * data; a kind of part that it gains is drawn, dragged, locked, paired and named here without a line more.
 */

import type { Schemas } from "../api/client";
import { theRegister } from "../api/register";
import type { ChassisPoint, Mm } from "../units/brands";

export type Document = Schemas["RevisionOut"]["document"];
export type Path = (string | number)[];
type Kind = Schemas["Kind"];
type Part = Record<string, unknown>;

/** A movable point of the design. `path` is where it stands in the file; `on` the body that carries it. */
export interface Spot {
  key: string;
  /** What the core calls it: `upper-left.frame`, `watts.pivot`; and what older files called it. */
  name: string;
  was: string | null;
  part: string;
  partName: string;
  end: string;
  path: Path;
  at: ChassisPoint;
  on: string;
  /** Only points of one kind pair. */
  kind: string;
  /** Whether its part constrains the axle. */
  holds: boolean;
}

/** An end of a body: a spot, the point midway between two (`of`), or the end of a bell crank about its pivot. */
export interface End {
  name: string;
  at: ChassisPoint;
  on: string;
  of: ChassisPoint[];
  pivot: ChassisPoint | null;
}

/** What is drawn between two ends: as a link, an arm, a crank, a slider's shoe, a strut. */
export interface Body {
  id: string;
  kind: string;
  words: string;
  shape: Schemas["BodyRow"]["shape"];
  a: End;
  b: End;
  diameter: Mm;
}

export interface Parts {
  spots: Spot[];
  bodies: Body[];
}

const known = new WeakMap<Document, Parts>();

/** Everything a design is made of, in the file's order; worked out once a document. */
export function partsOf(document: Document): Parts {
  let parts = known.get(document);
  if (!parts) {
    parts = { spots: [], bodies: [] };
    const table = theRegister().parts;
    for (const where of [...new Set(table.map((kind) => kind.where.join("/")))])
      readPlace(
        document,
        table.filter((kind) => kind.where.join("/") === where),
        parts,
      );
    known.set(document, parts);
  }
  return parts;
}

export const spotsOf = (document: Document): Spot[] => partsOf(document).spots;
export const bodiesOf = (document: Document): Body[] => partsOf(document).bodies;

/** An id of the file in words: `lower-left` is Lower left. */
export const words = (id: string): string => capital(id.replaceAll(/[-_]+/g, " ").trim());
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** All parts that stand in one place of the file, each by its own kind, in the file's order. */
function readPlace(document: Document, kinds: Kind[], into: Parts): void {
  for (const [path, part] of found(document, kinds[0]!.where)) {
    const kind = kinds.find((k) => !k.tag || part["kind"] === k.key);
    if (kind) readPart(document, kind, path, part, into);
  }
}

function found(document: Document, where: Path): [Path, Part][] {
  const list = where.at(-1) === "*";
  const value = valueAt(document, list ? where.slice(0, -1) : where);
  if (value === null || value === undefined) return [];
  return list
    ? (value as Part[]).map((part, n) => [[...where.slice(0, -1), n], part])
    : [[where, value as Part]];
}

export const valueAt = (value: unknown, path: Path): unknown =>
  path.reduce<unknown>(
    (v, step) => (v as Record<string | number, unknown> | null | undefined)?.[step],
    value,
  );

const OTHER: Record<string, string> = { axle: "frame", frame: "axle" };

/** The body that carries a point: named outright, by a path in the part (`@`), or as the other of the two (`!`). */
function carrier(on: string, part: Part): string {
  if (!/^[@!]/.test(on)) return on;
  const named = valueAt(part, on.slice(1).split(".")) as string;
  return on.startsWith("!") ? OTHER[named]! : named;
}

function readPart(document: Document, kind: Kind, path: Path, part: Part, into: Parts): void {
  const id = kind.id ?? (part["id"] as string);
  const said = kind.words ?? words(id).toLowerCase();
  const fill = (text: string, on = "") => text.replaceAll("{id}", id).replaceAll("{on}", on);
  const ends = new Map<string, End>();
  for (const row of kind.points) {
    const on = carrier(row.on, part);
    const name = fill(row.name, on);
    const point = valueAt(part, row.path) as ChassisPoint | null | undefined;
    if (!point) continue;
    const inFile = [...path, ...row.path];
    into.spots.push({
      key: inFile.join("."), name, was: row.was ?? null, part: id, partName: capital(said), end: row.words, path: inFile,
      at: point, on, kind: `${kind.key}.${row.path.filter((step) => step !== "at").join(".")}`, holds: kind.holds.length > 0,
    }); // prettier-ignore
    ends.set(name, { name, at: point, on, of: [point], pivot: null });
  }
  let turns = "";
  for (const row of kind.derived) {
    const on = carrier(row.on, part);
    const name = fill(row.name, on);
    if ("at" in row) {
      const point = valueAt(document, row.at) as ChassisPoint;
      ends.set(name, { name, at: point, on, of: [point], pivot: null });
      continue;
    }
    if ("about" in row) turns = on;
    ends.set(name, "about" in row ? swung(name, on, row, part, ends) : middle(name, on, row.of.map((of) => ends.get(fill(of))!))); // prettier-ignore
  }
  for (const row of kind.bodies) {
    const [a, b] = [row.a, row.b].map((end) => ends.get(fill(end, turns)));
    if (!a || !b) continue;
    const size = row.size.length > 0 ? (valueAt(part, row.size) as number | undefined) : undefined;
    const diameter = size ?? row.standard;
    const named = row.words.replace("{words}", said).replace("link link", "link");
    into.bodies.push({ id: fill(row.name), kind: kind.key, words: named, shape: row.shape, a, b, diameter });
  }
}

/** An end of a bell crank at ride: `arm` from its pivot, above or below it, turned by the tilt about the fore-aft axis. */
function swung(name: string, on: string, row: Schemas["SwungRow"], part: Part, ends: Map<string, End>): End {
  const pivot = ends.get(row.about)!.at;
  const tilt = ((part["tilt"] as number) * Math.PI) / 180;
  const long = row.hand * (part["arm"] as number);
  const point: ChassisPoint = [pivot[0], pivot[1] - long * Math.sin(tilt), pivot[2] + long * Math.cos(tilt)];
  return { name, at: point, on, of: [point], pivot };
}

function middle(name: string, on: string, of: End[]): End {
  const point = [0, 1, 2].map((i) => (of[0]!.at[i]! + of[1]!.at[i]!) / 2) as ChassisPoint;
  return { name, at: point, on, of: of.map((end) => end.at), pivot: null };
}
