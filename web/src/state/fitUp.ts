/** What is kept of an axle’s fit-up beside its truck: readings, how the axle stood for them, and gates. */

import type { Schemas } from "../api/client";
import { theRegister } from "../api/register";
import type { Document } from "../document/document";
import type { TruckDocument } from "./truck";
import { readLength, type Units } from "../units/tape";

export type Record_ = Schemas["FitRecord"];
export type Reading = Record_["readings"][number];
export type Gate = Schemas["GateMark"]["gate"];
export type Mark = Schemas["GateMark"];
export type Kind = Reading["kind"];
export type Drive = Record_["drives"][number];

const NONE: Record_ = {
  notes: "",
  readings: [],
  pose: undefined,
  stood: [],
  gates: [],
  drives: [],
  orders: [],
};

/** The fit-up of the open design’s axle. */
export function recordOf(truck: TruckDocument, { axle }: Document): Record_ {
  const kept = truck.fit_up?.[axle.end];
  const { pose, ...plain } = { ...NONE, ...kept };
  return pose ? { ...plain, pose } : plain;
}

export const withRecord = (truck: TruckDocument, { axle }: Document, record: Record_): TruckDocument => ({
  ...truck,
  fit_up: { ...(truck.fit_up as object | null), [axle.end]: record },
});

export const KINDS = [
  ["height", "Height off the floor"],
  ["ahead", "Ahead of the axle’s center"],
  ["left", "Left of the centerline"],
  ["distance", "Distance between mounts"],
  ["length", "A bar’s length"],
] as const;

export interface Taking {
  kind: Kind;
  of: string;
  to: string;
}

/** The reading that is typed, or what is wrong with it. A length is kept in the unit it was read in. */
export function readingOf(taking: Taking, text: string, id: string, units: Units): Reading | string {
  const mm = readLength(text, units);
  if (typeof mm === "string") return mm;
  const { kind, of, to } = taking;
  if (of === "") return "Choose what was read.";
  if (kind === "distance" && (to === "" || to === of)) return "Choose the other mount.";
  if ((kind === "distance" || kind === "length") && mm < 0) return "A distance is not below nothing.";
  const inch = units !== "mm";
  const value = inch ? Number((mm / 25.4).toFixed(6)) : mm;
  const plain = { id, of, value, unit: inch ? "in" : "mm", left_out: false } as const;
  return kind === "distance" ? { ...plain, kind, to } : { ...plain, kind };
}

export const inMm = ({ value, unit }: Reading): number => (unit === "in" ? value * 25.4 : value);

/** Every gate, in the usual order of the work. */
export const gates = (): Schemas["GateSaid"][] => theRegister().gates;

/** The gates of this build, in its order. */
export const gatesOf = ({ gate_order }: Record_): Schemas["GateSaid"][] =>
  gate_order ? gate_order.gates.map((gate) => gates().find(({ id }) => id === gate)!) : gates();

/** How a gate was left last; null: it stands open. */
export const markOf = ({ gates }: Record_, gate: Gate): Mark | null =>
  gates.findLast((one) => one.gate === gate) ?? null;

const isPast = (mark: Mark | null): boolean => mark !== null && mark.result !== "failed";

/** Gates before one, or that it asks for in whatever order, that nobody has passed. */
export function openBefore(record: Record_, gate: Gate): string[] {
  const own = gatesOf(record);
  const at = own.findIndex(({ id }) => id === gate);
  const before = new Set([...own.slice(0, at).map(({ id }) => id), ...own[at]!.after]);
  return gates().flatMap(({ id, name }) => (before.has(id) && !isPast(markOf(record, id)) ? [name] : []));
}

/** The first gate that is not passed. */
export const nextGate = (record: Record_): Gate | null =>
  gatesOf(record).find(({ id }) => !isPast(markOf(record, id)))?.id ?? null;
