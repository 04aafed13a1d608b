/** All mounts as a sheet of tape readings: what stands, what is typed or pasted, how it is understood, taking it. */

import {
  counterpartOf,
  type Document,
  jointOf,
  mirrorOf,
  mountLabel,
  partnerOf,
  type Point,
  type Spot,
  spotsOf,
  withBolt,
  withMount,
  withPairing,
} from "../../document/document";
import { oddPlace } from "../../state/placing";
import { lengthFigure, plain, type Units, unitSign } from "../../units/tape";
import { type Field, FIELDS, readPlace } from "./place";

export const COLUMNS = ["up", "ahead", "out", "bolt"] as const;
export type Column = (typeof COLUMNS)[number];
const FIELD: Record<Exclude<Column, "bolt">, Field> = { up: FIELDS[0]!, ahead: FIELDS[1]!, out: FIELDS[2]! };

export interface Cell {
  id: string;
  mount: Spot;
  column: Column;
}

/** A mount and the one of the other side; on the center, or alone, it stands in the left columns. */
export interface Row {
  label: string;
  left: Spot | null;
  right: Spot | null;
}

export function rowsOf(document: Document): Row[] {
  const rows: Row[] = [];
  const seen = new Set<string>();
  for (const mount of spotsOf(document)) {
    if (seen.has(mount.key)) continue;
    const other = counterpartOf(document, mount);
    for (const one of [mount, other]) if (one) seen.add(one.key);
    const [left, right] = !other || mount.at[1] >= other.at[1] ? [mount, other] : [other, mount];
    const label = other ? pairLabel(mount) : mountLabel(mount);
    rows.push(
      !other && mount.at[1] < 0 ? { label, left: null, right: mount } : { label, left, right: right ?? null },
    );
  }
  return rows;
}

const pairLabel = (mount: Spot): string => {
  const words = mountLabel(mount)
    .replace(/\b(left|right)\b ?/gi, "")
    .replace(/ +,/, ",")
    .trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
};

/** The cells of a row, left side and right; null where nothing stands or nothing is to be said. */
export const cellsOf = (document: Document, row: Row): (Cell | null)[] =>
  [row.left, row.right].flatMap((mount) =>
    COLUMNS.map((column) => {
      if (!mount || (column === "bolt" && jointOf(document, mount) === undefined)) return null;
      return { id: `${mount.key} ${column}`, mount, column };
    }),
  );

type Direction = [number, number, number];
const DEG = 180 / Math.PI;

/** A bolt's axis by its left end: how far it is turned forward, and how far up, degrees. */
export function boltAngles([x, y, z]: readonly number[]): [number, number] {
  const way = y! < 0 || (y === 0 && x! < 0) ? -1 : 1;
  return [Math.atan2(way * x!, way * y!) * DEG, Math.atan2(way * z!, Math.hypot(x!, y!)) * DEG];
}

export function boltOf(forward: number, up: number): Direction {
  const [f, u] = [forward / DEG, up / DEG];
  return [Math.sin(f) * Math.cos(u), Math.cos(f) * Math.cos(u), Math.sin(u)];
}

/** What stands in a cell, in the words that can be typed there. */
export function stands(document: Document, { mount, column }: Cell, units: Units): string {
  if (column === "bolt") {
    const bolt = boltAt(document, mount);
    return bolt
      ? boltAngles(bolt)
          .map((angle) => plain(angle, 1))
          .join(" / ")
      : "square";
  }
  const field = FIELD[column];
  const at = mount.at[field.axis];
  const figure = lengthFigure(field.sign(at) * at, units);
  // the column's head says which side is meant; where it stands on the other, the cell does
  const other = column === "ahead" && at < 0 && /[1-9]/.test(figure);
  return other ? `${figure} behind` : figure;
}

function boltAt(document: Document, mount: Spot): readonly number[] | null {
  const part = mount.path
    .slice(0, -1)
    .reduce<unknown>((v, step) => (v as Record<string | number, unknown>)[step], document);
  return (part as { bolt?: readonly number[] | null }).bolt ?? null;
}

/** What was typed in a cell: a coordinate (mm), a bolt's direction (null: square to its link); or why it can't be read. */
export function readCell(
  text: string,
  { mount, column }: Cell,
  units: Units,
): number | Direction | null | string {
  if (column !== "bolt") return readPlace(text, FIELD[column], mount.at[FIELD[column].axis], units);
  const said = text.trim().toLowerCase().replaceAll("−", "-").replaceAll("°", "");
  if (said === "" || said === "square") return null;
  const [forward, up = 0, ...more] = said
    .split(/[\s/,;]+/)
    .filter(Boolean)
    .map(Number);
  const fine = more.length === 0 && [forward, up].every((v) => v !== undefined && Math.abs(v) <= 90);
  return fine ? boltOf(forward!, up) : "Type degrees, left end forward / up, like 12 / 0; or “square”.";
}

export type Drafts = Record<string, string>;

export interface Taken {
  document: Document;
  /** By cell, why it was not taken. */
  wrong: Record<string, string>;
  /** By cell, what is odd about the place. */
  odd: Record<string, string>;
  moved: number;
}

/** The document with all that can be read; a side typed alone takes the other along where they are paired. */
export function taken(document: Document, drafts: Drafts, units: Units, oddToo: boolean): Taken {
  const result: Taken = { document, wrong: {}, odd: {}, moved: 0 };
  const typed = new Set<string>();
  const cells = rowsOf(document)
    .flatMap((row) => cellsOf(document, row))
    .filter((cell) => cell !== null);
  for (const mount of spotsOf(document)) {
    const own = cells.filter((cell) => cell.mount.key === mount.key && drafts[cell.id] !== undefined);
    if (own.length > 0 && readMount(mount, own, drafts, units, oddToo, result)) typed.add(mount.key);
  }
  result.moved = typed.size;
  for (const mount of spotsOf(document))
    if (typed.has(mount.key)) result.document = alongside(document, result.document, mount, typed);
  return result;
}

function readMount(
  mount: Spot,
  cells: Cell[],
  drafts: Drafts,
  units: Units,
  oddToo: boolean,
  into: Taken,
): boolean {
  const at = [...mount.at] as Point;
  let any = false;
  for (const cell of cells) {
    const read = readCell(drafts[cell.id]!, cell, units);
    if (typeof read === "string") into.wrong[cell.id] = read;
    else if (typeof read === "number") {
      const axis = FIELD[cell.column as Exclude<Column, "bolt">].axis;
      const odd = oddPlace(into.document, at.map((v, i) => (i === axis ? read : v)) as Point);
      if (odd) into.odd[cell.id] = odd;
      if (odd && !oddToo) continue;
      at[axis] = read;
      any = true;
    } else {
      into.document = withBolt(into.document, mount, read);
      any = true;
    }
  }
  into.document = withMount(into.document, mount, at);
  return any;
}

/** Its partner goes along where it was not typed itself; where both were and differ, each moves alone from now on. */
function alongside(before: Document, now: Document, mount: Spot, typed: Set<string>): Document {
  const partner = partnerOf(before, mount);
  if (!partner) return now;
  const own = spotsOf(now).find((spot) => spot.key === mount.key)!;
  const [x, y, z] = own.at;
  if (!typed.has(partner.key)) {
    const bolt = boltAt(now, own);
    const along = withMount(now, partner, [x, -y, z]);
    return jointOf(now, own) === undefined || sameBolt(bolt, boltAt(before, mount))
      ? along
      : withBolt(along, partner, mirroredBolt(bolt));
  }
  return mirrorOf(now, own) ? now : withPairing(now, own, false, partner);
}

const mirroredBolt = (bolt: readonly number[] | null): Direction | null =>
  bolt && [-bolt[0]!, bolt[1]!, -bolt[2]!];
const sameBolt = (a: readonly number[] | null, b: readonly number[] | null) =>
  JSON.stringify(a) === JSON.stringify(b);

/** A block from a spreadsheet put into the grid with its first value at a cell: drafts for what it covers. */
export function pasted(grid: (Cell | null)[][], at: Cell, block: string): Drafts {
  const lines = block
    .replace(/\r/g, "")
    .replace(/\n$/, "")
    .split("\n")
    .map((line) => line.split("\t"));
  const top = grid.findIndex((row) => row.some((cell) => cell?.id === at.id));
  const left = grid[top]!.findIndex((cell) => cell?.id === at.id);
  const drafts: Drafts = {};
  lines.forEach((values, down) =>
    values.forEach((value, across) => {
      const cell = grid[top + down]?.[left + across];
      if (cell && value.trim() !== "") drafts[cell.id] = value.trim();
    }),
  );
  return drafts;
}

const SIDES = ["left", "right"].flatMap((side) => COLUMNS.map((column) => `${side} ${column}`));

/** The whole sheet, a line a mount: the heads first, the unit with the first of them. */
function sheetOf(document: Document, units: Units, head: string): string[][] {
  const lines = rowsOf(document).map((row) => [
    row.label,
    ...cellsOf(document, row).map((cell) => (cell ? stands(document, cell, units) : "")),
  ]);
  return [[head, ...SIDES], ...lines];
}

/** The whole sheet for a spreadsheet's clipboard. */
export const copied = (document: Document, units: Units): string =>
  sheetOf(document, units, "mount").map((line) => line.join("\t")).join("\n") + "\n"; // prettier-ignore

const quoted = (text: string): string => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** The whole sheet as a CSV file; its first head says the unit. */
export const csvOf = (document: Document, units: Units): string =>
  sheetOf(document, units, `mount (${unitSign(units)})`)
    .map((line) => line.map(quoted).join(",") + "\r\n")
    .join("");

/** The values of a line of CSV, of which any may stand in double quotes. */
function valuesOf(line: string, by: string): string[] {
  const found = line.matchAll(by === ";" ? /("(?:[^"]|"")*"|[^;]*)(;|$)/g : /("(?:[^"]|"")*"|[^,]*)(,|$)/g);
  const values: string[] = [];
  for (const [, value, end] of found) {
    const bare = value!.startsWith('"') ? value!.slice(1, -1).replaceAll('""', '"') : value!;
    values.push(bare.trim());
    if (end === "") break;
  }
  return values;
}

/** What a CSV file of mounts says otherwise than the design, as drafts; and what of it names nothing here. */
export interface FromCsv {
  drafts: Drafts;
  unknown: string[];
}

/**
 * Read a CSV file such as `csvOf` writes: columns by their heads in any order, rows by their mounts' names. A unit in
 * the first head counts for every figure that says none. A string: why it can't be read at all.
 */
export function fromCsv(document: Document, text: string, units: Units): FromCsv | string {
  const lines = text.replaceAll("\r", "").split("\n").filter((line) => line.trim() !== ""); // prettier-ignore
  const by = (lines[0] ?? "").split(";").length > (lines[0] ?? "").split(",").length ? ";" : ",";
  const [heads, ...rows] = lines.map((line) => valuesOf(line, by));
  const columns = (heads ?? []).map((head) => SIDES.indexOf(head.toLowerCase()));
  if (!heads || !columns.some((n) => n >= 0))
    return `Its first line must name the columns: mount, then any of ${SIDES.join(", ")}.`;
  const unit = /\((in|mm)\)/.exec(heads[0]!)?.[1];
  const found: FromCsv = { drafts: {}, unknown: [] };
  const grid = new Map(rowsOf(document).map((row) => [row.label.toLowerCase(), cellsOf(document, row)]));
  for (const [name, ...values] of rows) {
    const cells = grid.get((name ?? "").toLowerCase());
    if (!cells) {
      found.unknown.push(name ?? "");
      continue;
    }
    values.forEach((value, n) => {
      const cell = cells[columns[n + 1] ?? -1];
      if (!cell || value === "") return;
      const said = unit && cell.column !== "bolt" ? withUnit(value, unit) : value;
      const same = unit === unitSign(units) && value === stands(document, cell, units);
      if (!same) found.drafts[cell.id] = said;
    });
  }
  return found;
}

/** A figure with the file's unit behind it, where it says none of its own; a side stays at its end. */
function withUnit(value: string, unit: string): string {
  if (/mm|cm|in|ft|["'”’]/i.test(value.replace(/behind|ahead|forward|back|left|right/gi, ""))) return value;
  return value.replace(/^(.*?)(\s*(?:behind|ahead|forward|back|left|right))?$/i, `$1 ${unit}$2`);
}
