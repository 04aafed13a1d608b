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
const NO_FIT_UP: Schemas["FitRecord"] = { notes: "", readings: [], gates: [], drives: [] };

export const writtenOut = (document: TruckDocument): TruckDocument => ({
  ...LEFT_OUT,
  ...document,
  choices: document.choices ?? {},
  fit_up: {
    front: { ...NO_FIT_UP, ...document.fit_up?.["front"] },
    rear: { ...NO_FIT_UP, ...document.fit_up?.["rear"] },
  },
});
