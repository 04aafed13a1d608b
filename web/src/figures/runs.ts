/** Figures of the parts that run with the axle: where their curves stand, and what was judged of them. */

import type { CycleAnswer, Finding, Sweep } from "../api/client";
import { RUN, type RunFigure, runFigureOf, theRegister } from "../api/register";

export type Of = RunFigure["of"];

/** The column of a sweep that a part's figure is read off; none where it is worked out in a way of its own. */
export function columnOf(figure: RunFigure, part: string): string | null {
  if (figure.id === "slip_out" || figure.id === "slip_in") return "shaft_slip";
  if (figure.id === "strap_side") return `strap ${part} side`;
  if (figure.id === "unsteady") return "shaft_unsteady";
  if (figure.column === "") return null;
  if (["shock", "stop", "strap"].includes(figure.of)) return `${figure.of} ${part} ${figure.column}`;
  return figure.of === "bar" ? `bar ${figure.column}` : figure.column;
}

/** A finding's figure and the part that it is of. */
export function runOf(finding: Finding): { figure: RunFigure; part: string } | null {
  if (!finding.id.startsWith(RUN)) return null;
  const figure = runFigureOf(finding.id);
  return figure ? { figure, part: finding.id.slice(RUN.length + figure.id.length + 1) } : null;
}

export const runsOf = (of: Of): RunFigure[] => theRegister().runs.filter((figure) => figure.of === of);

const otherSide = (part: string): string =>
  part.includes("left") ? part.replace("left", "right") : part.replace("right", "left");

/** What was judged of a part's figure: its own finding, or the one that its mirror image shares with it. */
export const foundFor = (answer: CycleAnswer, figure: string, part: string): Finding | undefined =>
  answer.findings.find((f) => f.id === `${RUN}${figure} ${part}`) ??
  answer.findings.find((f) => f.id === `${RUN}${figure} ${otherSide(part)}`);

/** The column's value in a sweep of one pose. */
export const valueIn = (sweep: Sweep, column: string | null): number | null =>
  column === null ? null : (sweep.columns[column]?.[0] ?? null);
