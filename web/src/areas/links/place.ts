/** A mount's coordinates as a tape reads them: off the floor, ahead of or behind the axle, out to a side. */

import { readTape, type Units } from "../../units/tape";

export interface Field {
  axis: 0 | 1 | 2;
  /** What it is called on the side where the mount stands, and which way is more. */
  name: (at: number) => string;
  sign: (at: number) => 1 | -1;
  /** Words behind a figure that say the side outright. */
  sides: Record<string, 1 | -1>;
}

const sided = (at: number): 1 | -1 => (at < 0 ? -1 : 1);

export const FIELDS: Field[] = [
  { axis: 2, name: () => "Off the floor", sign: () => 1, sides: {} },
  {
    axis: 0,
    name: (x) => (x < 0 ? "Behind the axle" : "Ahead of the axle"),
    sign: sided,
    sides: { ahead: 1, forward: 1, behind: -1, back: -1 },
  },
  {
    axis: 1,
    name: (y) => (y < 0 ? "Out to the right" : "Out to the left"),
    sign: sided,
    sides: { left: 1, right: -1 },
  },
];

/** Where a typed text puts a coordinate that stands at `at`, mm; or why it can't be read. */
export function readPlace(text: string, field: Field, at: number, units: Units): number | string {
  const side = Object.keys(field.sides).find((word) => text.trim().toLowerCase().endsWith(word));
  const sign = side ? field.sides[side]! : field.sign(at);
  const typed = readTape(side ? text.trim().slice(0, -side.length) : text, units);
  if (typed.kind === "refused") return typed.why;
  return sign * (typed.kind === "change" && !side ? sign * at + typed.mm : typed.mm);
}

/** Which side a place is on, in the words that can be typed. */
export const sideWords = (field: Field, at: number): string => {
  if (field.axis === 2) return at < 0 ? "below the floor" : "off the floor";
  return Object.keys(field.sides).find((word) => field.sides[word] === sided(at))!;
};
