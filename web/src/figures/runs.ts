/** Figures of the parts that run with the axle: where their curves stand, and what was judged of them. */

import type { CycleAnswer, Finding, Sweep } from "../api/client";
import { type Figure, figureOf, theRegister } from "../api/register";

export type Of = Figure["of"];

/** The column of a sweep that a part's figure is read off; none where it is worked out in a way of its own. */
export function columnOf({ how }: Figure, part: string): string | null {
  const column = how !== null && "column" in how ? how.column : null;
  return column?.replace("{part}", part) ?? null;
}

/** The band that a figure's curve is held against; none where what is judged is no value of that curve. */
export function bandOn({ how }: Figure, { low, high }: Finding): [number | null, number | null] | null {
  if (how === null || ("over" in how && how.over.endsWith("spread"))) return null;
  return "in_band" in how && !how.in_band ? null : [low, high];
}

/** A finding's figure and the part that it is of; nothing of one on the design as a whole, on a mount, on two
 * parts together, or on what a part carries. */
export function runOf(finding: Finding): { figure: Figure; part: string } | null {
  const figure = figureOf(finding.figure);
  const [part] = finding.parts;
  return figure && !["mount", "pair", "member", "rule"].includes(figure.of) && part !== undefined
    ? { figure, part }
    : null;
}

export const runsOf = (of: Of): Figure[] => theRegister().figures.filter((figure) => figure.of === of);

/** What was judged of a part's figure: its own finding, or the one that its mirror image shares with it. */
export const foundFor = (answer: CycleAnswer, figure: string, part: string): Finding | undefined =>
  answer.findings.find((f) => f.figure === figure && f.parts.includes(part));

/** The column's value in a sweep of one pose. */
export const valueIn = (sweep: Sweep, column: string | null): number | null =>
  column === null ? null : (sweep.columns[column]?.[0] ?? null);
