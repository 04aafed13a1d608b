/** Bars and brackets as they are made: asked once for a design and a stock; plates are drawn on the floor. */

import { useMemo } from "react";

import { type Schemas, server } from "../../api/client";
import { type Document, type Point, spotsOf } from "../../document/document";
import type { Layer } from "../../floor/Drawing";
import { line, projector, type Standing } from "../../floor/geometry";
import { useAsked } from "../../solve/asking";
import { stockFile, useStock } from "../../state/stock";

export type CutOut = Schemas["CutOut"];
export type Plate = CutOut["brackets"][number]["plates"][number];
export type BarMade = CutOut["bars"][number];

export function useCut(document: Document, wanted = true) {
  const stock = useStock((s) => s.stock);
  const key = wanted ? JSON.stringify([document, stock]) : null;
  const asked = useAsked<CutOut>(
    key,
    (signal) => server.cut({ document, stock: stockFile(document, stock) }, signal),
    120,
  );
  return { key, asked };
}

/** The plates where they stand, each carried by what it is welded to. */
export function usePlates(document: Document, standing: Standing, wanted: boolean): readonly Layer[] {
  const { asked } = useCut(document, wanted);
  const brackets = wanted ? asked.data?.brackets : undefined;
  return useMemo(() => {
    if (!brackets || brackets.length === 0) return [];
    const on = new Map(spotsOf(document).map((spot) => [spot.name, spot.on]));
    return [
      {
        lines: (view, aim, cell) => {
          const to = projector(view, aim, cell);
          return brackets.flatMap(({ mounts, plates }) =>
            plates.map((plate) => (
              <path
                key={plate.part}
                d={`${line(...plate.outline.map((at) => to(standing.place(on.get(mounts[0]!) ?? "frame", spaceOf(plate, at)))))}Z`}
                fill="var(--hair)"
                fillOpacity={0.7}
                stroke="var(--ink)"
                strokeWidth={1.25}
              />
            )),
          ); // prettier-ignore
        },
        grips: () => null,
      },
    ];
  }, [brackets, document, standing]);
}

/** A point of a plate, u and v, in the chassis at ride. */
export const spaceOf = ({ origin, u, v }: Plate, [a, b]: readonly [number, number]): Point =>
  origin.map((at, i) => at + a * u[i]! + b * v[i]!) as unknown as Point;
