/** What must be held, moved or rerouted, each before a step of the work; and what a strip-down of this truck asks for. */

import type { TruckDocument } from "../../shell/truck";
import { plain, type Units } from "../../units/tape";

export type Job = TruckDocument["jobs"][number];

/** A job before it has an id. */
export interface NewJob {
  what: string;
  where: string;
  count: number;
  before: string;
  done: boolean;
}

/** The steps of the work that a job can stand before, in their order. */
export const STEPS = [
  "Lifting it",
  "Stripping",
  "Cutting",
  "Tacking brackets",
  "Cycling the axle",
  "Welding",
  "Back on its wheels",
] as const;

const KG_PER_LB = 0.45359237;
const STANDS = 4;
/** A stand is chosen to carry so many times its share: the truck is pushed and pried at. */
const RATED = 1.5;

/** What each stand must be rated for with all of the truck on four of them, kg. */
export const standRating = ({ vehicle }: TruckDocument): number => (RATED * vehicle.mass) / STANDS;

const weight = (kg: number, units: Units): string =>
  units === "mm" ? `${plain(kg, 0)} kg` : `${plain(kg / KG_PER_LB, 0)} lb`;

/** What a strip-down mostly asks for, to start from: to be gone through at the truck. */
export function typicalJobs(truck: TruckDocument, units: Units): NewJob[] {
  const job = (what: string, where: string, before: (typeof STEPS)[number], count = 1) => ({
    what, where, before, count, done: false,
  }); // prettier-ignore
  const rated = weight(standRating(truck), units);
  return [
    job(`Stands, each rated for ${rated} or more`, "under the frame, clear of where mounts will go", "Lifting it", STANDS),
    job("Chocks", "at the wheels that stay on the ground", "Lifting it", 2),
    job("Driveshaft held up before its last bolt is out", "at the axle being stripped", "Stripping"),
    job("Springs let down with a jack under the axle, never from under them", "at the axle being stripped", "Stripping"),
    job("Brake hoses and hard lines off the axle, ends capped", "axle to frame", "Stripping"),
    job("Parking brake cables", "axle to frame", "Stripping"),
    job("Axle breather, led higher", "on the housing", "Cycling the axle"),
    job("Wiring and sensors off the axle", "axle to frame", "Stripping"),
    job("Fuel lines and tank out or shielded; nothing is cut or welded near fuel", "where brackets go", "Cutting"),
    job("Battery off, before anything is welded", "at the battery", "Tacking brackets"),
    job("Exhaust moved out of the way of links", "where it crosses them", "Cycling the axle"),
    job("Brake hoses long enough for full droop and twist", "frame to axle", "Back on its wheels"),
  ]; // prettier-ignore
}

/** An id that no job has. */
export function freeJobId(jobs: readonly Job[]): string {
  const taken = new Set(jobs.map((job) => job.id));
  for (let n = jobs.length + 1; ; n++) if (!taken.has(`j${n}`)) return `j${n}`;
}

export const withJobs = (truck: TruckDocument, more: readonly NewJob[]): TruckDocument =>
  more.reduce<TruckDocument>(
    (now, job) => ({ ...now, jobs: [...now.jobs, { ...job, id: freeJobId(now.jobs) }] }),
    truck,
  );

const order = (before: string): number => {
  const at = (STEPS as readonly string[]).indexOf(before);
  return at < 0 ? STEPS.length : at;
};

/** The jobs by the step they stand before, in the order of the work. */
export function byStep(jobs: readonly Job[]): [string, Job[]][] {
  const steps = [...new Set(jobs.map((job) => job.before))].sort((a, b) => order(a) - order(b));
  return steps.map((step) => [step, jobs.filter((job) => job.before === step)]);
}
