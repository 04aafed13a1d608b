/** Keep-outs of a design: added, left out, typical ones to start from. Points mm, chassis axes, at ride. */

import type { ChassisPoint as Point } from "../units/brands";
import type { Document } from "./parts";

export type KeepOut = NonNullable<Document["room"]>["keep_outs"][number];

/** A keep-out before it has an id. */
export type Draft = Pick<KeepOut, "name" | "on" | "gap" | "except" | "solid">;

export const keepOutsOf = (document: Document): readonly KeepOut[] => document.room?.keep_outs ?? [];

/** What a file leaves out of a box. */
export const UPRIGHT = { turn: [0, 0, 0] as const };

/** Points that a view of all of it has to hold: the outermost of each keep-out. */
export const reachOf = (document: Document): Point[] =>
  keepOutsOf(document).flatMap(({ solid }): Point[] => {
    if (solid.kind === "tube") return [...solid.path];
    if (solid.kind === "hull") return [...solid.points];
    if (solid.kind === "prism") return [];
    const half = Math.hypot(...solid.size) / 2;
    const { turn } = { ...UPRIGHT, ...solid };
    const reach = turn.some((v) => v !== 0) ? [half, half, half] : solid.size.map((v) => v / 2);
    return [-1, 1].map((way) => solid.center.map((v, i) => v + way * reach[i]!) as Point);
  });

/** Names that parts have already: one namespace for links, bars and keep-outs. */
function taken(document: Document): Set<string> {
  const corners = document.corners;
  const struts = [...(corners?.shocks ?? []), ...(corners?.stops ?? []), ...(corners?.straps ?? [])];
  return new Set([
    ...document.links.map((link) => link.id),
    ...keepOutsOf(document).map((one) => one.id),
    ...struts.map((one) => one.id),
    ...KEPT,
  ]);
}

const KEPT = [
  "panhard", "watts-left", "watts-right", "axle", "axle-tube", "housing", "tire-left", "tire-right", "shaft", "drag-link",
  "tie-rod",
]; // prettier-ignore

/** An id from a name, that nothing else has. */
export function freeId(document: Document, name: string): string {
  const plain = name.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-").replaceAll(/^-|-$/g, "") || "keep-out"; // prettier-ignore
  const names = taken(document);
  for (let n = 1; ; n++) {
    const id = n === 1 ? plain : `${plain}-${n}`;
    if (!names.has(id)) return id;
  }
}

const put = (document: Document, keep_outs: readonly KeepOut[]): Document => ({
  ...document,
  room: { gap: 12.7, except: [], zones: [], ...document.room, keep_outs: [...keep_outs] },
});

export const withKeepOut = (document: Document, one: Draft): Document =>
  put(document, [...keepOutsOf(document), { ...one, id: freeId(document, one.name) }]);

export const withoutKeepOut = (document: Document, id: string): Document =>
  put(
    document,
    keepOutsOf(document).filter((one) => one.id !== id),
  );

type Typical = (document: Document) => Draft[];

type Three = [number, number, number];
const box = (name: string, center: Three, size: Three, gap = 25): Draft =>
  ({ name, on: "frame", gap, except: [], solid: { kind: "box", center, size, turn: [0, 0, 0] } }); // prettier-ignore

/** How far the rails reach, for what stands between them. */
function between(document: Document) {
  const rails = document.rails;
  const { tire_radius_loaded: radius, tire_diameter: tire } = document.axle;
  const ahead = document.axle.end === "rear" ? 1 : -1;
  const under = rails?.underside ?? radius + document.travel.bump + 60;
  const inside = rails ? rails.outside_width - 2 * rails.flange : 700;
  return { rails, tire, ahead, under, inside };
}

/** What most trucks have about this axle, sized by the truck: places guessed, to be moved to where they are. */
export const TYPICAL: Record<string, readonly [string, Typical]> = {
  rails: [
    "Both frame rails",
    (document) => {
      const { rails, tire } = between(document);
      if (!rails) return [];
      const y = (rails.outside_width - rails.flange) / 2;
      return [1, -1].map((side) =>
        box(
          side > 0 ? "Left rail" : "Right rail",
          [0, side * y, rails.underside + rails.depth / 2],
          [3 * tire, rails.flange, rails.depth],
          12.7,
        ),
      );
    },
  ],
  crossmember: [
    "A crossmember",
    (document) => {
      const { ahead, under, inside, tire } = between(document);
      return [box("Crossmember", [ahead * 1.35 * tire, 0, under + 60], [90, inside, 100])];
    },
  ],
  tank: [
    "A fuel tank",
    (document) => {
      const { ahead, under, inside, tire } = between(document);
      return [box("Fuel tank", [-ahead * 0.95 * tire, 0, under - 20], [0.6 * tire, 0.8 * inside, 260])];
    },
  ],
  floor: [
    "A floor over the axle",
    (document) => {
      const { under, tire, rails } = between(document);
      const top = under + (rails?.depth ?? 140) + 40;
      return [box("Floor", [0, 0, top + 20], [3 * tire, document.axle.track * 0.7, 40])];
    },
  ],
};

/** The design with a typical set of keep-outs; null where it has nothing to size one by. */
export function withTypical(document: Document, which: string): Document | null {
  const made = TYPICAL[which]![1](document);
  return made.length === 0 ? null : made.reduce(withKeepOut, document);
}
