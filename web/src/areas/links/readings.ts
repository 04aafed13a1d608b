/** The figures that decide, as the Links screen reads them: off the cycle's columns, and off what was judged. */

import type { CycleAnswer, Finding, Sweep } from "../../api/client";
import type { Document } from "../../design/document";
import { length, plain, type Units } from "../../units/tape";

export type ReadingId =
  | "instant_center" | "anti" | "roll_center" | "roll_axis" | "rear_steer" | "pinion" | "fore_aft" | "sideways"
  | "lower_angle" | "separation" | "side_force" | "joints" | "swing" | "give"; // prettier-ignore

export type Quantity = "length" | "angle" | "percent" | "ratio";

export interface Reading {
  id: ReadingId;
  name: string;
  meaning: string;
  quantity: Quantity;
  /** The judged figure whose band and verdict stand beside it; none for what is only read. */
  figure: string | null;
  /** Column of a sweep that the curve shows and the value is read from; none for what is judged over the whole cycle. */
  column: string | null;
  sweep: "heave" | "articulation";
  /** The column's range over the sweep is judged, not its value. */
  ranged?: boolean;
  /** Columns that can be wanted at the scrubber, each with what it is called when typed. */
  pulls: [column: string, name: string][];
}

const NONE = "none";

export const show = (value: number | null | undefined, quantity: Quantity, units: Units): string => {
  if (value === null || value === undefined) return NONE;
  if (quantity === "length") return length(value, units);
  if (quantity === "ratio") return `${plain(value, 2)} ×`;
  return quantity === "angle" ? `${plain(value, 1)}°` : `${plain(value, 0)} %`;
};

/** A change, with its sign; words where it is too small to show. */
export function showChange(change: number, quantity: Quantity, units: Units): string {
  const text = show(Math.abs(change), quantity, units);
  if (!/[1-9]/.test(text)) return "same";
  return `${change < 0 ? "−" : "+"}${text}`;
}

export const QUANTITIES: Record<string, Quantity> = {
  mm: "length",
  deg: "angle",
  percent: "percent",
  ratio: "ratio",
};

/** What a gauge or a tape would just show: a plot stands for no less. */
export const LEAST: Record<Quantity, number> = { length: 3, angle: 0.4, percent: 2, ratio: 0.05 };

export const at = (sweep: Sweep, column: string): number | null => sweep.columns[column]?.[0] ?? null;

const row = (
  id: ReadingId, name: string, quantity: Quantity, figure: string | null, column: string | null, meaning: string,
  more: Partial<Reading> = {},
): Reading => ({ id, name, quantity, figure, column, meaning, sweep: "heave", pulls: [], ...more }); // prettier-ignore

const INSTANT_CENTER = row("instant_center", "Instant center", "length", "ic_length", "ic_length",
  "The point the axle swings about, seen from the side, at this travel; read is how far from the axle it lies.",
  { pulls: [["ic_x", "Ahead of the axle"], ["ic_height", "Off the ground"]] }); // prettier-ignore
const ROLL_CENTER = row("roll_center", "Roll center", "length", "roll_center", "roll_center_height",
  "The height at which the links hold the axle sideways: the body rolls about it.",
  { pulls: [["roll_center_height", "Off the ground"]] }); // prettier-ignore
const ROLL_AXIS = (figure: string | null) => row("roll_axis", "Roll axis", "angle", figure, "roll_axis_angle",
  "Slope of the line the axle rolls about, seen from the side; + rises toward the front and steers the axle in roll.",
  { pulls: [["roll_axis_angle", "Slope, degrees"]] }); // prettier-ignore
const SQUAT = row("anti", "Anti-squat", "percent", "anti_squat", "anti_squat",
  "How much of the rear's squat under drive the links carry instead of the springs. 100 % neither squats nor lifts.",
  { pulls: [["anti_squat", "Percent"]] }); // prettier-ignore
const DIVE = row("anti", "Anti-dive", "percent", null, "anti_dive",
  "How much of the front's dive under braking the links carry instead of the springs.",
  { pulls: [["anti_dive", "Percent"]] }); // prettier-ignore
const STEER = row("rear_steer", "Rear steer", "angle", "rear_steer", "yaw",
  "How far the axle has turned in plan; judged from one full articulation to the other.",
  { sweep: "articulation", ranged: true }); // prettier-ignore
const PINION = row("pinion", "Pinion change", "angle", "pinion_change", "pinion_change",
  "How far the pinion nose has turned up from where it points at ride; judged over the whole travel.",
  { ranged: true, pulls: [["pinion_change", "Degrees up"]] }); // prettier-ignore
const CASTER = row("pinion", "Caster change", "angle", "caster_change", "caster_change",
  "How far the steering axis has leaned back from where it stands at ride. The pinion turns the other way.",
  { ranged: true, pulls: [["caster_change", "Degrees back"]] }); // prettier-ignore
const FORE_AFT = row("fore_aft", "Axle fore-aft", "length", null, "axle_x",
  "How far the axle's center has swung forward (+) or back on the links.", { ranged: true, pulls: [["axle_x", "Forward"]] }); // prettier-ignore
const SIDEWAYS = row("sideways", "Axle sideways", "length", "lateral_drift", "axle_y",
  "How far the axle's center has moved off the truck's centerline, + to the left; judged over the whole travel.",
  { ranged: true, pulls: [["axle_y", "To the left"]] }); // prettier-ignore
const WHOLE = [
  row("lower_angle", "Lower links", "angle", "lower_angle", null, "The steepest lower link, from level, at ride."),
  row("separation", "Separation", "length", "separation_axle", null,
    "Height of the upper joints over the lower ones at the axle, at ride. More of it means less force in the links."),
  row("side_force", "Side load", "ratio", "side_force", null,
    "The largest force in any link for each unit of side load on the tires, at ride."),
  row("joints", "Joint angle", "angle", "joint_angle", null,
    "The largest turn of any joint out of its bolt's square, anywhere in travel and articulation."),
  row("swing", "Link swing", "angle", "swing", null, "The largest angle any link swings through from full droop to full bump."),
  row("give", "Give needed", "length", "bind", null,
    "What bushings must give where the links ask for more than one thing at once."),
]; // prettier-ignore

/** The readings of a rear or a front axle, in the order of the work. */
export function readingsOf(document: Document): Reading[] {
  return document.axle.end === "rear"
    ? [
        INSTANT_CENTER,
        SQUAT,
        ROLL_CENTER,
        ROLL_AXIS("roll_axis"),
        STEER,
        PINION,
        FORE_AFT,
        SIDEWAYS,
        ...WHOLE,
      ]
    : [INSTANT_CENTER, DIVE, ROLL_CENTER, ROLL_AXIS(null), CASTER, FORE_AFT, SIDEWAYS, ...WHOLE];
}

export const judged = (answer: CycleAnswer, figure: string | null): Finding | undefined =>
  figure === null ? undefined : answer.findings.find((f) => f.id === figure);

/** A reading's value at the scrubber; of what is judged over the whole cycle, that. */
export const valueOf = (reading: Reading, answer: CycleAnswer): number | null =>
  reading.column === null
    ? (judged(answer, reading.figure)?.value ?? null)
    : answer.here.reached[0]
      ? at(answer.here, reading.column)
      : null;

/** The verdict in words: what the band says. */
export function verdictOf(finding: Finding | undefined): string {
  if (!finding || finding.verdict === "open") return "";
  if (finding.verdict === "inside") return "good";
  return finding.verdict;
}

/** A band in words: from, to, or both. */
export function bandWords(low: number | null, high: number | null, quantity: Quantity, units: Units): string {
  const [from, to] = [low, high].map((end) => (end === null ? null : show(end, quantity, units)));
  if (from !== null && to !== null) return `${from} to ${to}`;
  if (from !== null) return `${from} or more`;
  return to === null ? "no band" : `${to} or less`;
}

/** Lowest and highest over the sweep, where it exists. */
export function rangeOf(sweep: Sweep, column: string): [number, number] | null {
  const values = (sweep.columns[column] ?? []).filter((v): v is number => v !== null);
  return values.length ? [Math.min(...values), Math.max(...values)] : null;
}
