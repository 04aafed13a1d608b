/** Where everything stands on the floor: in the last good answer, as asked, or at the end of what can be reached. */

import { useMemo, useState } from "react";

import { type Pose, ridePose, type Standing, standing, type Turned } from "../floor/geometry";
import type { Document } from "../document/document";
import type { CycleAnswer } from "../api/client";
import type { Solved } from "./solver";
import type { Behind } from "./behind";
import type { Scrub } from "./scrub";

const NONE: Record<string, Turned> = {};
const NOWHERE: Pose = [];
/** An articulation below this is a straight axle. */
const TWISTED_DEG = 0.01;

/** The axle's pose in an answer for where the scrubbers stood. */
export function poseOf(answer: CycleAnswer | null, asked: Scrub, radius: number): Pose {
  if (!answer) return ridePose(radius);
  const { here, heave, articulation } = answer;
  if (here.reached[0]) return here.state[0] as number[];
  const twisted = Math.abs(asked.articulation) > TWISTED_DEG;
  const sweep = twisted ? articulation : heave;
  const along = sweep.columns[twisted ? "articulation" : "travel"]!;
  const wanted = twisted ? asked.articulation : asked.travel;
  const nearest = sweep.reached
    .map((reached, n) => ({ n, off: reached ? Math.abs((along[n] ?? 0) - wanted) : Infinity }))
    .sort((a, b) => a.off - b.off)[0];
  return nearest && Number.isFinite(nearest.off) ? (sweep.state[nearest.n] as number[]) : ridePose(radius);
}

/** The same array as long as it holds the same numbers: what has not moved need not be drawn again. */
export function useSame<T extends readonly (number | string)[]>(list: T): T {
  const [kept, setKept] = useState(list);
  const same = kept.length === list.length && kept.every((v, i) => v === list[i]);
  if (!same) setKept(list);
  return same ? kept : list;
}

const carriedIn = (answer: CycleAnswer | null): Record<string, Turned> =>
  answer && Object.keys(answer.carried).length > 0 ? answer.carried : NONE;

/** Where the open design stands. */
export function useStanding(document: Document, solved: Solved | null): Standing {
  const radius = document.axle.tire_radius_loaded;
  const answer = solved?.answer ?? null;
  const pose = useSame(poseOf(answer, solved ?? { travel: 0, articulation: 0 }, radius));
  const carried = carriedIn(answer);
  return useMemo(() => standing(pose, radius, carried), [pose, radius, carried]);
}

/** The design behind, standing where it would for the same scrubbers; null without one. */
export function useGhost(behind: Behind | null, asked: Scrub) {
  const radius = behind?.document.axle.tire_radius_loaded ?? 0;
  const pose = useSame(behind ? poseOf(behind.answer, asked, radius) : NOWHERE);
  const carried = carriedIn(behind?.answer ?? null);
  const document = behind?.document;
  return useMemo(
    () => (document ? { document, standing: standing(pose, radius, carried) } : null),
    [document, pose, radius, carried],
  );
}
