/** What the corners come to, asked of the core once the design stands still. */

import { type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { useTruck } from "../../state/truck";
import { useAsked } from "../../solve/asking";
import { increment, type Units } from "../../units/tape";

export type CornersAnswer = Schemas["CornersOut"];
export type Rung = Schemas["Rung"];
export type Rungs = Schemas["Rungs"];

/** With every state of load that the truck's weights know. */
export function useCorners(document: Document, units: Units) {
  const cases = useTruck((s) => s.truck?.document.cases);
  const loads = (cases ?? []).map(({ name, mass, front_share }) => ({ name, mass, front_share }));
  const settling = document.corners?.settling ?? 0;
  const body = {
    document,
    loads,
    wanted: -settling,
    spacer: increment(units, "shop") * 2,
    height: units === "mm" ? 25 : 25.4,
  };
  const key = JSON.stringify(body);
  return { key, ...{ asked: useAsked(key, (signal) => server.corners(body as never, signal), 400) } };
}
