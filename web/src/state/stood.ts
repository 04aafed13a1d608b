/** What is read with the axle on its springs, or held at the ends of its travel: what was typed, as it is kept. */

import type { Schemas } from "../api/client";
import { readLength, type Units } from "../units/tape";
import type { Record_ } from "./fitUp";

export type Stood = Record_["stood"][number];
export type Stance = Schemas["Stood"]["stance"];
export type StoodKind = Stood["kind"];

export const STANCES = [
  ["weight", "On its weight"],
  ["bump", "Held at full bump"],
  ["droop", "Held at full droop"],
] as const;

export const STOOD_KINDS = [
  ["strut", "Shock, strap or stop"],
  ["pinion", "Pinion, on a gauge"],
  ["bar", "A bar, on a gauge"],
  ["gap", "Gap between two parts"],
] as const;

export const ENDS_HIGH = [
  ["frame", "Its end at the frame"],
  ["axle", "Its end at the axle"],
] as const;

/** What is about to be read. */
export interface Standing {
  stance: Stance;
  kind: StoodKind;
  of: string;
  /** The two parts of a gap, as one. */
  pair: string;
  zero: "level" | "plumb";
  face: "along" | "square";
  points: "up" | "down";
  high: "axle" | "frame";
}

export const FIRST: Standing = {
  stance: "weight", kind: "strut", of: "", pair: "", zero: "level", face: "along", points: "up", high: "frame",
}; // prettier-ignore

/** A pair of parts as one choice. */
export const pairOf = (a: string, b: string): string => `${a} ${b}`;

/** Degrees as a gauge shows them, 0 to 90; or what is wrong. */
function degrees(text: string): number | string {
  const value = Number(text.trim().replace(/ ?(°|deg|degrees)$/, ""));
  if (text.trim() === "" || !Number.isFinite(value)) return "Type degrees as a number: 9.5.";
  return value < 0 || value > 90 ? "A gauge shows 0 to 90 degrees; which way is asked beside it." : value;
}

/** The reading that is typed, or what is wrong with it. A length is kept in the unit it was read in. */
export function stoodOf(standing: Standing, text: string, id: string, units: Units): Stood | string {
  const { stance, kind, of, pair, zero, face, points, high } = standing;
  const plain = { id, stance, left_out: false, by: "", at: "", note: "" } as const;
  if ((kind === "strut" || kind === "bar") && of === "") return "Choose what was read.";
  if (kind === "gap" && pair === "") return "Choose between which two parts.";
  if (kind === "pinion" || kind === "bar") {
    const value = degrees(text);
    if (typeof value === "string") return value;
    return kind === "pinion"
      ? { ...plain, kind, value, zero, face, points }
      : { ...plain, kind, of, value, high };
  }
  const mm = readLength(text, units);
  if (typeof mm === "string") return mm;
  if (mm < 0) return "A distance is not below nothing.";
  const inch = units !== "mm";
  const size = { value: inch ? Number((mm / 25.4).toFixed(6)) : mm, unit: inch ? "in" : "mm" } as const;
  if (kind === "strut") return { ...plain, ...size, kind, of };
  const [a, b] = pair.split(" ");
  return { ...plain, ...size, kind, of: a!, to: b! };
}
