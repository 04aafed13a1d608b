/** The register's figures as they are read beside the drawing: off the cycle's columns, and off what was judged. */

import type { CycleAnswer, Finding, Sweep } from "../api/client";
import { type Figure, figureOf, theRegister } from "../api/register";
import type { Document } from "../document/document";
import { showForce, showRate } from "../units/forces";
import { length, plain, readLength, type Units } from "../units/tape";

export type Quantity = "length" | "angle" | "percent" | "ratio" | "frequency" | "force" | "rate";

const NONE = "none";
/** Beyond this a distance says nothing to a shop but that it is far. */
const FAR_MM = 20_000;

export const show = (value: number | null | undefined, quantity: Quantity, units: Units): string => {
  if (value === null || value === undefined) return NONE;
  if (quantity === "length") return Math.abs(value) > FAR_MM ? "far away" : length(value, units);
  if (quantity === "ratio") return `${plain(value, 2)} ×`;
  if (quantity === "frequency") return `${plain(value, 2)} Hz`;
  if (quantity === "force") return showForce(value, units);
  if (quantity === "rate") return showRate(value, units);
  return quantity === "angle" ? `${plain(value, 1)}°` : `${plain(value, 0)} %`;
};

/** A number as typed for a quantity, mm where it is a length; or why it can't be read. */
export function readQuantity(text: string, quantity: Quantity, units: Units): number | string {
  if (quantity === "length") return readLength(text, units);
  const value = Number(
    text
      .trim()
      .replace("−", "-")
      .replace(/[°%×]$/, ""),
  );
  return text.trim() === "" || !Number.isFinite(value) ? "Type a number." : value;
}

/** A change, with its sign; words where it is too small to show. */
export function showChange(change: number, quantity: Quantity, units: Units): string {
  const text = show(Math.abs(change), quantity, units);
  if (!/[1-9]/.test(text)) return "same";
  return `${change < 0 ? "−" : "+"}${text}`;
}

export const QUANTITIES: Record<Figure["unit"], Quantity> = {
  mm: "length",
  deg: "angle",
  percent: "percent",
  ratio: "ratio",
  hz: "frequency",
  n: "force",
  n_mm: "rate",
};

export const quantityOf = (finding: Finding): Quantity => QUANTITIES[finding.unit ?? "mm"];

/** What a gauge or a tape would just show: a plot stands for no less. */
export const LEAST: Record<Quantity, number> = {
  length: 3,
  angle: 0.4,
  percent: 2,
  ratio: 0.05,
  frequency: 0.1,
  force: 50,
  rate: 0.5,
};

export const at = (sweep: Sweep, column: string): number | null => sweep.columns[column]?.[0] ?? null;

/** A figure as a row beside the drawing. */
export interface Reading {
  id: string;
  /** What it is called where there is little room. */
  name: string;
  meaning: string;
  quantity: Quantity;
  /** Column of a sweep that the curve shows and the value is read from; none for what is judged over the whole cycle. */
  column: string | null;
  sweep: "heave" | "articulation";
  /** The column's range over the sweep is judged, not its value. */
  ranged: boolean;
  /** Columns that can be wanted at the scrubber, each with what it is called when typed. */
  pulls: Figure["pulls"];
}

const reading = (figure: Figure): Reading => ({
  id: figure.id,
  name: figure.short,
  meaning: figure.meaning,
  quantity: QUANTITIES[figure.unit],
  column: figure.how && "column" in figure.how ? (figure.how.column ?? null) : null,
  sweep: figure.how && "sweep" in figure.how ? figure.how.sweep : "heave",
  ranged: figure.how !== null && "sweep" in figure.how,
  pulls: figure.pulls,
});

/** The readings of a rear or a front axle, in the register's order. */
export const readingsOf = (document: Document): Reading[] =>
  theRegister()
    .figures.filter((f) => f.row && (f.end ?? document.axle.end) === document.axle.end)
    .map(reading);

/** What was judged of a figure, where this design is judged by it. */
export const judged = (answer: CycleAnswer, figure: string): Finding | undefined =>
  answer.findings.find((f) => f.id === figure);

/** A figure's own name, or the id that nothing is registered under. */
export const nameOf = (id: string): string => (figureOf(id)?.name ?? id).toLowerCase();

/** What a finding is worth, in its own unit; nothing where it has no figure. */
export const worth = (finding: Finding, units: Units): string =>
  finding.value === null || !finding.unit ? "" : show(finding.value, quantityOf(finding), units);

/** A reading's value at the scrubber; of what is judged over the whole cycle, that. */
export const valueOf = (reading: Reading, answer: CycleAnswer): number | null =>
  reading.column === null
    ? (judged(answer, reading.id)?.value ?? null)
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

/** Where a finding is worst, both halves of the pose; nothing where it is no matter of a pose, or at ride. */
export function whereWords({ place }: Finding, units: Units): string {
  const { travel, articulation } = place;
  const parts: string[] = [];
  if (travel && Math.abs(travel) >= 0.05)
    parts.push(`${length(Math.abs(travel), units)} of ${travel < 0 ? "droop" : "bump"}`);
  if (articulation && Math.abs(articulation) >= 0.05)
    parts.push(
      `${plain(Math.abs(articulation), 1)}° of articulation, ${articulation < 0 ? "right" : "left"} wheel up`,
    );
  return parts.length ? `Worst at ${parts.join(" and ")}.` : "";
}

/** Lowest and highest over the sweep, where it exists. */
export function rangeOf(sweep: Sweep, column: string): [number, number] | null {
  const values = (sweep.columns[column] ?? []).filter((v): v is number => v !== null);
  return values.length ? [Math.min(...values), Math.max(...values)] : null;
}
