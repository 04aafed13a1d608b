/** The way through the job: its steps, what stands open at each, and the one thing that it wants next. */

import type { Finding } from "../api/client";
import { figureOf, theRegister } from "../api/register";
import { gates, gatesOf, nextGate, recordOf } from "../state/fitUp";
import type { Document } from "../document/document";
import { sourceOf, valueAt } from "../panels/TruckFigures";
import { choiceOf } from "../state/choice";
import { pressing } from "../state/selection";
import type { TruckDocument } from "../state/truck";

/** The areas in the order of the work; how each is called. */
export const STEPS = [
  ["truck", "Truck"],
  ["room", "Room"],
  ["links", "Links"],
  ["cycle", "Cycle"],
  ["corners", "Corners"],
  ["weigh", "Weigh up"],
  ["cut", "Cut sheet"],
  ["fit-up", "Fit-up"],
] as const;

export type Step = (typeof STEPS)[number][0];

/** What stands open at a step: how grave it is, how many, and what they are. */
export interface Open {
  severity: "stop" | "fix" | "guess" | "gate";
  count: number;
  words: string;
}

/** Where a finding is dealt with: what runs with the axle has areas of its own, all else its cures at the links. */
export function stepOf(finding: Finding): "room" | "links" | "cycle" | "corners" | "cut" {
  const area = figureOf(finding.figure)?.area;
  if (area === "loads") return "cut";
  if (area === "room" || area === "corners") return area;
  return area === "shaft" || area === "steering" ? "cycle" : "links";
}

/** Where the pane of a finding is: those in the room and those on loads are cured by moving mounts, or with them. */
const paneOf = (finding: Finding): "links" | "cycle" | "corners" => {
  const step = stepOf(finding);
  return step === "room" || step === "cut" ? "links" : step;
};

/** The figures of the truck that nobody measured or took from a catalog. */
export const guessedOf = (truck: TruckDocument): string[] =>
  theRegister()
    .truck.filter(({ path }) => typeof valueAt(truck, path) === "number" && sourceOf(truck, path) === "guessed")
    .map(({ words }) => words); // prettier-ignore

const many = (count: number, one: string, more: string) => `${count} ${count === 1 ? one : more}`;

/** What stands open at each step, the gravest kind of it. */
export function openAt(
  document: Document,
  findings: readonly Finding[],
  truck: TruckDocument | null,
): Partial<Record<Step, Open>> {
  const open: Partial<Record<Step, Open>> = {};
  for (const step of ["room", "links", "cycle", "corners", "cut"] as const) {
    const own = findings.filter((finding) => stepOf(finding) === step);
    const [stops, fixes] = (["stop", "fix"] as const).map((grave) => own.filter((f) => f.severity === grave).length);
    if (stops) open[step] = { severity: "stop", count: stops, words: many(stops, "stop", "stops") };
    else if (fixes) open[step] = { severity: "fix", count: fixes, words: `${fixes} to fix` };
  } // prettier-ignore
  if (!truck) return open;
  const guessed = guessedOf(truck).length;
  if (guessed > 0) open.truck = { severity: "guess", count: guessed, words: `${guessed} guessed` };
  const record = recordOf(truck, document);
  const own = gatesOf(record);
  const left = own.length - own.findIndex(({ id }) => id === nextGate(record));
  if (record.gates.length > 0 && nextGate(record) !== null)
    open["fit-up"] = { severity: "gate", count: left, words: many(left, "gate open", "gates open") };
  return open;
}

/** The one thing that the job wants next. */
export interface Next {
  step: Step;
  words: string;
  finding?: Finding;
}

/**
 * What is missing comes first, then what is wrong, the gravest first; then what was guessed, the choice of what is
 * built, and the gates in their order. Null: nothing is left.
 */
export function nextOf(
  document: Document,
  findings: readonly Finding[],
  truck: TruckDocument | null,
): Next | null {
  if (truck && !truck.rails) return { step: "truck", words: "The frame rails are not known" };
  const worst = pressing([...findings]).find(({ severity }) => severity !== "consider");
  if (worst)
    return {
      step: paneOf(worst),
      finding: worst,
      words: `${worst.severity === "stop" ? "Stop" : "Fix"}: ${worst.title}`,
    };
  if (!truck) return null;
  const guessed = guessedOf(truck);
  const one = guessed[0];
  if (one !== undefined)
    return { step: "truck", words: `Measure what is guessed: ${one}${guessed.length > 1 ? `, and ${guessed.length - 1} more` : ""}` }; // prettier-ignore
  if (!choiceOf(truck, document)) return { step: "weigh", words: "Say that this one is built, and why" };
  const gate = nextGate(recordOf(truck, document));
  const named = gates().find(({ id }) => id === gate);
  return named ? { step: "fit-up", words: `Gate: ${named.name}` } : null;
}
