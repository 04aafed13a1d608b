/** What a verdict rests on of the truck's figures, where each comes from, and how far it may be off. */

import { type Schemas, server } from "../api/client";
import type { Document } from "../document/document";
import { showTruck, type TruckUnit } from "../figures/truck";
import { useTruck } from "../state/truck";
import { useAsked } from "../solve/asking";
import { showStress } from "../units/forces";
import { plain, type Units } from "../units/tape";

/** Where a figure that a design takes from the truck stands in the truck's own file; null: the design's own. */
function sourceOf(path: string, document: Document, sources: Record<string, string>): string | null {
  const { end } = document.axle;
  const own: Record<string, string[]> = {
    "vehicle.brake_share": ["vehicle.brake_front"],
    "vehicle.wheelbase": ["axles.front.station", "axles.rear.station"],
    "axle.tire_radius_loaded": [`axles.${end}.tire_radius_loaded`],
  };
  if (path === "vehicle.drive_share" || path === "yield") return null;
  const [group, key] = path.split(".");
  if (group === "loads") return key! in (document.loads ?? {}) ? null : "guessed";
  const found = (own[path] ?? [path]).map((one) => sources[one] ?? "guessed");
  return found.includes("guessed") ? "guessed" : (found[0] ?? "guessed");
}

/** A figure that a verdict rests on, in words. */
function saidOf(value: number, unit: string, units: Units): string {
  if (unit === "ratio") return plain(value, 2);
  if (unit === "mpa") return showStress(value, units);
  return showTruck(value, unit as TruckUnit, units);
}

/** The range in words; empty where the verdict holds as far as anyone guesses wrong. */
export function holdsWords(one: Schemas["Slack"], units: Units): string {
  const said = (value: number) => saidOf(value, one.unit, units);
  if (one.low !== null && one.high !== null) return `holds from ${said(one.low)} to ${said(one.high)}`;
  if (one.low !== null) return `holds from ${said(one.low)} up`;
  if (one.high !== null) return `holds up to ${said(one.high)}`;
  return `holds from ${said(one.tried[0])} to ${said(one.tried[1])}, and was tried no farther`;
}

export function Rests({ document, finding, units }: { document: Document; finding: string; units: Units }) {
  const truck = useTruck((s) => s.truck?.document);
  const key = JSON.stringify([document, finding]);
  const asked = useAsked(key, (signal) => server.slack({ document, finding }, signal));
  if (asked.key !== key || !asked.data || asked.data.length === 0) return null;
  return (
    <ul className="quiet" aria-label="What this rests on" style={{ margin: 0, paddingLeft: 18 }}>
      {asked.data.map((one) => {
        const source = sourceOf(one.path, document, truck?.sources ?? {});
        return (
          <li key={one.path}>
            Rests on the {one.words}, {saidOf(one.value, one.unit, units)}
            {source && (
              <>
                , <strong>{source}</strong>
              </>
            )}
            : {holdsWords(one, units)}.
          </li>
        );
      })}
    </ul>
  );
}
