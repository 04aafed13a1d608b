/** A worked-out design to test the screen's parts with: round figures, five rows of travel. */

import rear from "../../../server/builds/demo/fell-tender-rear.json";
import type { CycleAnswer, Finding, Sweep } from "../api/client";
import type { Document } from "../document/document";
import type { Solved } from "../state/solver";

/** The tender's room, corners and shaft have tests of their own: elsewhere it is its links alone. */
export const linksOnly = (file: object): Document =>
  ({ ...file, corners: null, driveshaft: null, steering: null }) as unknown as Document;
export const roomyTender = linksOnly(rear);
export const tender = { ...roomyTender, room: null } as unknown as Document;

const RADIUS = 444.5;
const TRAVELS = [-150, -75, 0, 50, 100];

export const finding = (id: string, more: Partial<Finding> = {}): Finding => ({
  id, severity: "good", figure: id, value: 1, unit: "mm", place: { travel: null, articulation: null, parts: [] }, low: null, high: null,
  source: "house value for trail and touring", verdict: "inside", title: id, message: "", disagrees: "", guessed: "", parts: [], facts: [], ...more,
}); // prettier-ignore

const sweep = (columns: Sweep["columns"], travels: number[]): Sweep => ({
  columns: { travel: travels, articulation: travels.map(() => 0), ...columns },
  reached: travels.map(() => true),
  state: travels.map((t) => [0, 0, RADIUS + t, 0, 0, 0, 0]),
});

/** At ride: instant center 2000 mm ahead and 500 up, anti-squat 60 %, roll center 650 mm up, roll axis down by 2°. */
export function solvedTender(findings: Finding[] = []): Solved {
  const here = sweep(
    {
      ic_x: [2000], ic_height: [500], ic_length: [2000], anti_squat: [60], roll_center_height: [650],
      roll_axis_angle: [-2], axle_x: [0], axle_y: [0], axle_z: [RADIUS], yaw: [0], pinion_change: [0],
    },
    [0],
  ); // prettier-ignore
  const heave = sweep(
    {
      anti_squat: [80, 70, 60, 50, 40],
      pinion_change: [3, 1.5, 0, -1, -2],
      ic_length: [4000, 3000, 2000, 1800, null],
    },
    TRAVELS,
  );
  const articulation = {
    ...sweep({ yaw: [-1, -0.5, 0, 0.5, 1] }, TRAVELS),
    columns: { articulation: [-10, -5, 0, 5, 10], yaw: [-1, -0.5, 0, 0.5, 1] },
  };
  const answer: CycleAnswer = {
    located: true, links: [], separation: { axle: 260, frame: 168 },
    stops: { heave: [null, null], articulation: [null, null] },
    findings, read: { length_ratio: 0.8, ic_of_cg: null }, ride: here, here, heave, articulation, misalignment: {}, carried: {},
    allowed: { share: 1, by: [] },
    curves: [
      { asks: "Does the pinion hold?", curves: [curve("pinion_change", "Pinion, nose up", "angle")] },
      { asks: "Does it hit?", curves: [curve("gap_spare", "Least gap has to spare", "length")] },
    ],
  }; // prettier-ignore
  return { answer, document: tender, travel: 0, articulation: 0 };
}

const curve = (column: string, name: string, quantity: "angle" | "length") =>
  ({ column, name, quantity, judged: null, low: null, high: null }); // prettier-ignore
