/** How far off each hole may be: asked once for a design and an error, shown in the pane and as rings on the floor. */

import { useMemo } from "react";
import { create } from "zustand";

import { type Schemas, server } from "../../api/client";
import { type Document, spotsOf } from "../../document/document";
import type { Layer } from "../../floor/Drawing";
import { projector } from "../../floor/geometry";
import { useAsked } from "../../solve/asking";
import { length, type Units } from "../../units/tape";

export type Outcomes = Schemas["Outcomes"];

const SIXTEENTH_MM = 1.5875;
const DRAWN = 50;

/** The shop’s own tape error, one sigma, mm: said once, kept on this device. */
export const useError = create<{ error: number; set: (mm: number) => void }>()((set) => ({
  error: Number(localStorage.getItem("tape error") ?? SIXTEENTH_MM) || SIXTEENTH_MM,
  set: (mm) => {
    localStorage.setItem("tape error", String(mm));
    set({ error: mm });
  },
}));

export function useOutcomes(document: Document, wanted: boolean) {
  const error = useError((s) => s.error);
  const key = wanted ? JSON.stringify([document, error]) : null;
  return {
    key,
    asked: useAsked<Outcomes>(key, (signal) => server.outcomes({ document, error }, signal), 300),
  };
}

/** Rings about the holes, fifty times their size. */
export function useRings(document: Document, units: Units, wanted: boolean): readonly Layer[] {
  const { asked } = useOutcomes(document, wanted);
  const rings = wanted ? asked.data?.rings : undefined;
  return useMemo(() => {
    if (!rings) return [];
    const at = new Map(spotsOf(document).map((spot) => [spot.name, spot.at]));
    return [
      {
        lines: (view, aim, cell) => {
          const to = projector(view, aim, cell);
          return rings.map(({ mount, by }) => {
            const place = at.get(mount);
            if (!place) return null;
            const [x, y] = to(place);
            return (
              <g key={mount}>
                <circle
                  cx={x}
                  cy={y}
                  r={by * DRAWN * aim.scale}
                  fill="none"
                  stroke="var(--accent)"
                  strokeDasharray="3 3"
                />
                <title>{`${mount}: ${length(by, units)} either way`}</title>
              </g>
            );
          });
        },
        grips: () => null,
      },
    ];
  }, [rings, document, units]);
}
