/** Readings of the truck as they are taken: what each is of, in words; typed in tape notation, kept as it was read. */

import { readTruck } from "../../figures/truck";
import type { TruckDocument } from "../../state/truck";
import { length, plain, readLength, type Units } from "../../units/tape";

export type Reading = TruckDocument["readings"][number];
export type Kind = Reading["kind"];
const MM_PER_INCH = 25.4;

export const KINDS: readonly (readonly [Kind, string])[] = [
  ["height", "Height off the floor"],
  ["distance", "Distance, straight"],
  ["along", "Distance, fore-aft"],
  ["across", "Distance, sideways"],
  ["angle", "Angle off a gauge"],
  ["output_offset", "Case output, off the centerline"],
  ["output_turn", "Case output, turned in plan"],
  ["scale", "Weight on a scale"],
];
export const HUBS = ["front-hub-left", "front-hub-right", "rear-hub-left", "rear-hub-right"] as const;
export const SHAFTS = [
  ["rear_pinion", "Rear pinion"],
  ["front_pinion", "Front pinion"],
  ["case_output", "Transfer case output"],
] as const;
export const TOOLS = [
  ["tape", "Tape"],
  ["laser", "Laser"],
  ["plumb", "Plumb line"],
] as const;
/** How a gauge was zeroed and which face it stood on, asked in words; the sign is where the nose points. */
export const ZEROS = [
  ["level", "Zeroed on a level surface"],
  ["plumb", "Zeroed on an upright surface"],
] as const;
export const FACES = [
  ["along", "Held along the shaft"],
  ["square", "Held on a face square to it"],
] as const;
export const POINTS = {
  pinion: [
    ["up", "Its nose points up"],
    ["down", "Its nose points down"],
  ],
  output: [
    ["down", "It points down on its way back"],
    ["up", "It points up on its way back"],
  ],
} as const;

/** What is being taken, before its value is typed. */
export interface Taking {
  kind: Kind;
  from: string;
  to: string;
  tool: "tape" | "laser" | "plumb";
  of: "rear_pinion" | "front_pinion" | "case_output";
  zero: "level" | "plumb";
  face: "along" | "square";
  points: "up" | "down";
  /** How far the axle stood from ride, as typed; + is up. */
  travel: string;
  end: "front" | "rear";
  side: "left" | "right" | "both";
  raised: "level" | "front" | "rear";
  by: string;
}

export const START: Taking = {
  kind: "height", from: "", to: "rear-hub-left", tool: "tape", of: "rear_pinion", zero: "level", face: "along",
  points: "up", travel: "", end: "front", side: "left", raised: "level", by: "",
}; // prettier-ignore

const KG_PER_LB = 0.45359237;

/** The reading with what was typed for its value; or why it can't be read. */
export function readingOf(taking: Taking, text: string, id: string, units: Units): Reading | string {
  const { kind } = taking;
  if (kind === "angle") return angleOf(taking, text, id, units);
  if (kind === "scale") return scaleOf(taking, text, id, units);
  if (kind === "output_turn") return outputTurnOf(taking, text, id);
  if (kind !== "output_offset" && taking.from === "")
    return "Say which mark it was taken from; add the mark first where there is none.";
  const mm = readLength(text, units);
  if (typeof mm === "string") return mm;
  if (mm < 0) return "A distance is not below nothing.";
  const value =
    units === "mm" ? { value: mm, unit: "mm" as const } : { value: mm / MM_PER_INCH, unit: "in" as const };
  const read = { id, ...value, instrument: taking.tool, left_out: false };
  if (kind === "output_offset") return { ...read, kind, side: taking.side === "right" ? "right" : "left" };
  if (kind === "height") return { ...read, kind: "height", point: taking.from };
  if (taking.from === taking.to) return "Both ends are the same point.";
  return { ...read, kind, from: taking.from, to: taking.to };
}

/** What a gauge read, degrees; or why it can’t be read. */
function degreesOf(text: string): number | string {
  const value = Number(text.trim().replace("°", "").replace("−", "-"));
  if (text.trim() === "" || !Number.isFinite(value)) return "Type degrees, like 6.8.";
  if (value < 0 || value > 90) return "A gauge reads from 0 to 90; which way it points is said beside it.";
  return value;
}

function outputTurnOf(taking: Taking, text: string, id: string): Reading | string {
  const value = degreesOf(text);
  if (typeof value === "string") return value;
  const points = taking.side === "right" ? "right" : "left";
  return { id, kind: "output_turn", points, value, unit: "deg", instrument: "gauge", left_out: false };
}

function angleOf(taking: Taking, text: string, id: string, units: Units): Reading | string {
  const { of, zero, face, points } = taking;
  const value = degreesOf(text);
  if (typeof value === "string") return value;
  const travel = taking.travel.trim() === "" ? 0 : readLength(taking.travel, units);
  if (typeof travel === "string") return travel;
  return {
    id, kind: "angle", of, value, unit: "deg", instrument: "gauge", zero, face, points, travel, left_out: false,
  }; // prettier-ignore
}

function scaleOf(taking: Taking, text: string, id: string, units: Units): Reading | string {
  const found = /^([\d.]+)\s*(kg|lbs?)?$/i.exec(text.trim());
  const value = Number(found?.[1]);
  if (!found || !Number.isFinite(value)) return "Type a weight, like 1850 lb or 840 kg.";
  const unit = /lb/i.test(found[2] ?? (units === "mm" ? "kg" : "lb")) ? "lb" : "kg";
  const { end, side, raised } = taking;
  const by = raised === "level" ? null : readLength(taking.by, units);
  if (typeof by === "string") return `How far was it raised? ${by}`;
  if (by !== null && by <= 0) return "Say how far that end was raised.";
  return {
    id, kind: "scale", end, ...(side === "both" ? {} : { side }), value, unit, instrument: "scale", left_out: false,
    raised: by === null || raised === "level" ? null : { end: raised, by },
  }; // prettier-ignore
}

/** What was being taken when a reading was written down, and its value as it was typed: to be changed. */
export function takingOf(reading: Reading, units: Units): { taking: Taking; text: string } {
  const taking = { ...START, kind: reading.kind };
  if (reading.kind === "scale")
    return {
      taking: {
        ...taking, end: reading.end, side: reading.side ?? "both", raised: reading.raised?.end ?? "level",
        by: reading.raised ? length(reading.raised.by, units) : "",
      },
      text: `${plain(reading.value, 1)} ${reading.unit}`,
    }; // prettier-ignore
  if (reading.kind === "angle") {
    const { of, zero, face, points, travel } = reading;
    const at = travel ? length(travel, units) : "";
    return { taking: { ...taking, of, zero, face, points, travel: at }, text: plain(reading.value, 2) };
  }
  if (reading.kind === "output_turn")
    return { taking: { ...taking, side: reading.points }, text: plain(reading.value, 2) };
  const text = asRead(reading, units);
  if (reading.kind === "output_offset")
    return { taking: { ...taking, side: reading.side, tool: reading.instrument }, text };
  const tool = reading.instrument;
  if (reading.kind === "height") return { taking: { ...taking, from: reading.point, tool }, text };
  return { taking: { ...taking, from: reading.from, to: reading.to, tool }, text };
}

/** What a reading is of, and what was read, in words. */
export function saidOf(reading: Reading, units: Units): string {
  if (reading.kind === "output_offset")
    return `Case output, ${reading.side} of center: ${asRead(reading, units)}`;
  if (reading.kind === "output_turn")
    return `Case output, turned ${reading.points} on its way back: ${plain(reading.value, 1)}°`;
  if (reading.kind === "height") return `${reading.point} off the floor: ${asRead(reading, units)}`;
  if (reading.kind === "angle") {
    const shaft = SHAFTS.find(([id]) => id === reading.of)![1];
    const at = reading.travel ? `, at ${length(Math.abs(reading.travel), units)} ${reading.travel > 0 ? "of bump" : "of droop"}` : ""; // prettier-ignore
    return `${shaft}: ${plain(reading.value, 1)}°, zeroed ${reading.zero}, ${reading.face === "along" ? "along it" : "square to it"}, pointing ${reading.points}${at}`;
  }
  if (reading.kind === "scale") {
    const where = `${reading.end}${reading.side ? ` ${reading.side}` : " axle"}`;
    const up = reading.raised ? `, ${reading.raised.end} raised ${length(reading.raised.by, units)}` : "";
    return `On the scale, ${where}: ${plain(reading.value, 0)} ${reading.unit}${up}`;
  }
  const way = { distance: "", along: ", fore-aft", across: ", sideways" }[reading.kind];
  return `${reading.from} to ${reading.to}${way}: ${asRead(reading, units)}`;
}

const asRead = (reading: { value: number; unit: string }, units: Units): string =>
  length(reading.value * (reading.unit === "in" ? MM_PER_INCH : 1), units);

/** A figure's value and its uncertainty, as finely as that lets it be said. */
export function showFigure(
  value: number,
  sigma: number,
  unit: "mm" | "deg" | "kg" | "share",
  units: Units,
): string {
  if (unit === "deg") return `${plain(value, 2)}° ± ${plain(sigma, 2)}°`;
  if (unit === "share") return `${plain(100 * value, 1)} % ± ${plain(100 * sigma, 1)} %`;
  if (unit === "kg")
    return units === "mm"
      ? `${plain(value, 0)} ± ${plain(sigma, 0)} kg`
      : `${plain(value / KG_PER_LB, 0)} ± ${plain(sigma / KG_PER_LB, 0)} lb`;
  return units === "mm"
    ? `${plain(value, 0)} ± ${plain(sigma, 1)} mm`
    : `${plain(value / MM_PER_INCH, 2)} ± ${plain(sigma / MM_PER_INCH, 2)} in`;
}

type FigureUnit = "mm" | "deg" | "kg" | "share";

/** A figure as it is typed: in the units of the screen, without what it is off by. */
export function typedFigure(value: number, unit: FigureUnit, units: Units): string {
  if (unit === "deg") return plain(value, 2);
  if (unit === "share") return `${plain(100 * value, 1)} %`;
  if (unit === "kg") return units === "mm" ? `${plain(value, 0)} kg` : `${plain(value / KG_PER_LB, 0)} lb`;
  return length(value, units);
}

/** What was typed for a figure, in the file's unit; or why it can't be read. */
export function readTyped(text: string, unit: FigureUnit, units: Units): number | string {
  if (unit !== "deg") return readTruck(text, unit, units);
  const value = Number(text.trim().replace("°", "").replace("−", "-"));
  return text.trim() === "" || !Number.isFinite(value) ? "Type degrees, like 0.3." : value;
}

/** Who took a reading and when, in words; nothing where nobody said. */
export function takenBy({ by, at }: Pick<Reading, "by" | "at">): string {
  const day = at ? at.slice(0, 16).replace("T", " ") : "";
  return [by ?? "", day].filter((part) => part !== "").join(", ");
}
