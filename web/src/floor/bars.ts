/** Bodies between two joints where they stand now: links, arms, bars, rods. */

import { type Body, bodiesOf, type Document, type Spot } from "../document/parts";
import type { ChassisPoint as Point } from "../units/brands";
import type { Standing } from "./geometry";

export interface Bar {
  id: string;
  kind: string;
  a: Point;
  b: Point;
}

const isBar = (body: Body) => body.shape === "link" || body.shape === "arm";

export const barsNow = (document: Document, standing: Standing): Bar[] =>
  bodiesOf(document)
    .filter(isBar)
    .map((body) => ({ id: body.id, kind: body.kind, a: standing.end(body.a), b: standing.end(body.b) }));

/** The bar that a mount belongs to. */
export const barOf = (document: Document, mount: Spot): Body | undefined =>
  bodiesOf(document).find(
    (body) =>
      isBar(body) && (body.a.name === mount.name || body.b.name === mount.name || body.id === mount.part),
  );

export const distance = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
