/** What the readings say of the axle as built: asked once for a design and its readings, drawn over the design. */

import { useMemo } from "react";

import { type Schemas, server } from "../../api/client";
import { type Document, type Point, spotsOf } from "../../document/document";
import type { Layer } from "../../floor/Drawing";
import { f, projector } from "../../floor/geometry";
import { useAsked } from "../../solve/asking";
import type { TruckDocument } from "../../state/truck";
import { length, type Units } from "../../units/tape";
import { recordOf } from "../../state/fitUp";

export type FitOut = Schemas["FitOut"];

/** Offsets are drawn so many times as large as they are. */
const TIMES = 10;

export function useFit(document: Document, truck: TruckDocument | null) {
  const record = truck && recordOf(truck, document);
  const key = record ? JSON.stringify([document, record.readings, record.pose]) : null;
  const asked = useAsked<FitOut>(key, (signal) => server.fit({ document, record: record! }, signal), 60);
  return { key, asked };
}

export function useBuilt(document: Document, truck: TruckDocument | null, units: Units): readonly Layer[] {
  const { asked } = useFit(document, truck);
  const mounts = asked.data?.mounts;
  return useMemo(() => {
    const read = (mounts ?? []).filter(({ measured }) => measured);
    if (read.length === 0) return [];
    const at = new Map(spotsOf(document).map((spot) => [spot.name, spot.at]));
    return [
      {
        lines: (view, aim, cell) => {
          const to = projector(view, aim, cell);
          return read.map(({ mount, off, sigma }) => {
            const place = at.get(mount);
            if (!place) return null;
            const [x, y] = to(place);
            const [u, v] = to(place.map((value, i) => value + TIMES * off[i]!) as unknown as Point);
            const wide = Math.max(4, Math.max(...sigma) * aim.scale * TIMES);
            return (
              <g key={mount} stroke="var(--accent)" fill="none" strokeWidth={1.75}>
                <line x1={f(x)} y1={f(y)} x2={f(u)} y2={f(v)} />
                <circle cx={u} cy={v} r={Math.min(wide, 60)} strokeDasharray="3 3" />
                <title>{`${mount}: ${length(Math.hypot(...off), units)} off`}</title>
              </g>
            );
          });
        },
        grips: () => null,
      },
    ];
  }, [mounts, document, units]);
}
