/** The figures that decide, as the Links screen reads them from the cycle's columns. */

import type { CycleAnswer, Sweep } from "../../api/client";
import type { Document } from "../../design/document";
import { length, lengthFigure, plain, type Units } from "../../units/tape";

export type ReadingId =
  | "instant_center" | "anti" | "roll_center" | "roll_axis" | "separation" | "pinion" | "fore_aft" | "sideways"; // prettier-ignore

export type Quantity = "length" | "angle" | "percent";

export interface Reading {
  id: ReadingId;
  name: string;
  meaning: string;
  quantity: Quantity;
  /** Column of the sweeps that the curve shows; none for what does not change over travel. */
  column: string | null;
  /** The value at the scrubber, in words. */
  value: (answer: CycleAnswer, units: Units) => string;
}

const NONE = "none";

export const show = (value: number | null | undefined, quantity: Quantity, units: Units): string => {
  if (value === null || value === undefined) return NONE;
  if (quantity === "length") return length(value, units);
  return quantity === "angle" ? `${plain(value, 1)}°` : `${plain(value, 0)} %`;
};

const at = (sweep: Sweep, column: string): number | null => sweep.columns[column]?.[0] ?? null;

const away = (mm: number | null, units: Units, plus: string, minus: string): string =>
  mm === null
    ? NONE
    : `${length(Math.abs(mm), units)}${lengthFigure(Math.abs(mm), units) === "0" ? "" : ` ${mm < 0 ? minus : plus}`}`;

const simple = (
  id: ReadingId,
  name: string,
  column: string,
  quantity: Quantity,
  meaning: string,
): Reading => ({
  id, name, column, quantity, meaning,
  value: (answer, units) => show(at(answer.here, column), quantity, units),
}); // prettier-ignore

const INSTANT_CENTER: Reading = {
  id: "instant_center",
  name: "Instant center",
  column: "ic_height",
  quantity: "length",
  meaning:
    "The point the axle swings about, seen from the side, at this travel. The curve is its height off the ground.",
  value: (answer, units) => {
    const [x, high] = [at(answer.here, "ic_x"), at(answer.here, "ic_height")];
    if (x === null || high === null) return "far away: links parallel";
    return `${away(x, units, "ahead", "behind")}, ${length(high, units)} up`;
  },
};

const SEPARATION: Reading = {
  id: "separation",
  name: "Link separation",
  column: null,
  quantity: "length",
  meaning:
    "Height of the upper joints over the lower ones at ride. More of it at the axle means less force in the links.",
  value: (answer, units) => {
    const { axle, frame } = answer.separation;
    if (axle === null || frame === null) return NONE;
    return `${length(axle, units)} axle, ${length(frame, units)} frame`;
  },
};

const path = (id: ReadingId, name: string, column: string, plus: string, minus: string, meaning: string): Reading => ({
  id, name, column, meaning, quantity: "length",
  value: (answer, units) => away(at(answer.here, column), units, plus, minus),
}); // prettier-ignore

const PINION = simple("pinion", "Pinion change", "pinion_change", "angle",
  "How far the pinion nose has turned up from where it points at ride."); // prettier-ignore
const CASTER = simple("pinion", "Caster change", "caster_change", "angle",
  "How far the steering axis has leaned back from where it stands at ride. The pinion turns the other way."); // prettier-ignore
const SQUAT = simple("anti", "Anti-squat", "anti_squat", "percent",
  "How much of the rear's squat under drive the links carry instead of the springs. 100 % neither squats nor lifts."); // prettier-ignore
const DIVE = simple("anti", "Anti-dive", "anti_dive", "percent",
  "How much of the front's dive under braking the links carry instead of the springs."); // prettier-ignore

/** The readings of a rear or a front axle, in the order of the work. */
export function readingsOf(document: Document): Reading[] {
  const rear = document.axle.end === "rear";
  return [
    INSTANT_CENTER,
    rear ? SQUAT : DIVE,
    simple("roll_center", "Roll center height", "roll_center_height", "length",
      "The height at which the links hold the axle sideways: the axle rolls about it."), // prettier-ignore
    simple("roll_axis", "Roll axis", "roll_axis_angle", "angle",
      "Slope of the line the axle rolls about, seen from the side; + rises toward the front and steers the axle in roll."), // prettier-ignore
    SEPARATION,
    rear ? PINION : CASTER,
    path(
      "fore_aft",
      "Axle fore-aft",
      "axle_x",
      "forward",
      "back",
      "How far the axle's center has swung forward or back on the links.",
    ),
    path(
      "sideways",
      "Axle sideways",
      "axle_y",
      "left",
      "right",
      "How far the axle's center has moved off the truck's centerline.",
    ),
  ];
}

/** Lowest and highest over the sweep, where it exists. */
export function rangeOf(sweep: Sweep, column: string): [number, number] | null {
  const values = (sweep.columns[column] ?? []).filter((v): v is number => v !== null);
  return values.length ? [Math.min(...values), Math.max(...values)] : null;
}
