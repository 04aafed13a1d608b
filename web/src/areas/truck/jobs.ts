/** What must be held, moved or rerouted, each before a step of the work. */

import { theRegister } from "../../api/register";
import type { TruckDocument } from "../../state/truck";

export type Job = TruckDocument["jobs"][number];

/** A job before it has an id. */
export interface NewJob {
  what: string;
  where: string;
  count: number;
  before: string;
  done: boolean;
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
  const { job_steps: steps } = theRegister();
  const at = steps.indexOf(before);
  return at < 0 ? steps.length : at;
};

/** The jobs by the step they stand before, in the order of the work. */
export function byStep(jobs: readonly Job[]): [string, Job[]][] {
  const steps = [...new Set(jobs.map((job) => job.before))].sort((a, b) => order(a) - order(b));
  return steps.map((step) => [step, jobs.filter((job) => job.before === step)]);
}
