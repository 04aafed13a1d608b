/** Bars and brackets as they are made: asked once for a design and a stock; plates are drawn on the floor. */

import { useMemo } from "react";

import { server } from "../../api/client";
import { type Document, spotsOf } from "../../document/document";
import type { Layer } from "../../floor/Drawing";
import { line, projector, type Standing } from "../../floor/geometry";
import { useFollowed } from "../../solve/asking";
import { stockFile, useStock } from "../../state/stock";
import { type CutOut, spaceOf } from "./plate";
import { EdgeGrip, TrussGrips } from "./PlateGrips";

/** What is made, where it is `wanted`; and where a page shows that, how it lies in this shop’s stock. */
export function useCut(document: Document, { wanted = true, nested = false } = {}) {
  const stock = useStock((s) => s.stock);
  const of = nested ? stockFile(document, stock) : null;
  const key = wanted ? JSON.stringify([document, of]) : null;
  const asked = useFollowed<CutOut>(key, () => server.cut({ document, stock: of }));
  return { key, asked };
}

/** The plates where they stand, each carried by what it is welded to; where a `hand` is on them, with their grips. */
export function usePlates(
  document: Document,
  standing: Standing,
  wanted: boolean,
  hand: boolean,
): readonly Layer[] {
  const { asked } = useCut(document, { wanted });
  const found = wanted ? asked.data : undefined;
  return useMemo(() => {
    if (!found) return [];
    const on = new Map(spotsOf(document).map((spot) => [spot.name, spot.on]));
    return [
      {
        lines: (view, aim, cell) => {
          const to = projector(view, aim, cell);
          const drawn = [
            ...found.truss.map((plate) => [plate, "axle"] as const),
            ...found.brackets.flatMap(({ mounts, plates }) =>
              plates.map((plate) => [plate, on.get(mounts[0]!) ?? "frame"] as const),
            ),
          ];
          return drawn.map(([plate, body]) => (
            <path
              key={plate.part}
              d={`${line(...plate.outline.map((at) => to(standing.place(body, spaceOf(plate, at)))))}Z`}
              fill="var(--hair)"
              fillOpacity={0.7}
              stroke="var(--ink)"
              strokeWidth={1.25}
            />
          ));
        },
        grips: (view, aim, cell) =>
          hand && (
            <>
              <TrussGrips {...{ document, standing, view, aim, cell }} />
              <EdgeGrip {...{ found, document, standing, view, aim, cell }} />
            </>
          ),
      },
    ];
  }, [found, document, standing, hand]);
}
