/** A truck with all written out that its file leaves out, so that two tablets adding to it add to the same thing. */

import type { Schemas } from "../api/client";

type TruckDocument = Schemas["TruckOut"]["document"];

const LEFT_OUT = {
  bands: {},
  rules: [],
  sources: {},
  marks: [],
  readings: [],
  cases: [],
  targets: {},
  jobs: [],
};
/** A shop that has not said how it works: its hours are guessed. */
export const USUAL_PACE = { a_day: 8, off: ["sun"], gates: {} } satisfies Schemas["Pace"];
const NO_FIT_UP: Schemas["FitRecord"] = {
  notes: "", readings: [], stood: [], gates: [], drives: [], orders: [], pace: USUAL_PACE,
}; // prettier-ignore

export const writtenOut = (document: TruckDocument): TruckDocument => ({
  ...LEFT_OUT,
  ...document,
  choices: document.choices ?? {},
  fit_up: {
    front: { ...NO_FIT_UP, ...document.fit_up?.["front"] },
    rear: { ...NO_FIT_UP, ...document.fit_up?.["rear"] },
  },
});
