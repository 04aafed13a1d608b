/** A loaded radius is set anew: what was meant says what moves, so that is asked before anything does. */

import { useEffect, useRef } from "react";

import { length, plain, type Units } from "../units/tape";
import { Button } from "../ui/controls";
import { type TruckDocument, useTruck } from "../state/truck";

const PATH = /^axles\.(front|rear)\.tire_radius_loaded$/;

/** The axle whose loaded radius a path of the truck is; null for any other figure. */
export const radiusEnd = (path: string): "front" | "rear" | null =>
  (PATH.exec(path)?.[1] as "front" | "rear" | undefined) ?? null;

interface Asked {
  truck: TruckDocument;
  end: "front" | "rear";
  radius: number;
  source: "measured" | "catalog" | "guessed";
  units: Units;
  onDone: () => void;
}

/** How far the frame leans more once one end stands so much higher, degrees nose up. */
const leans = (truck: TruckDocument, end: "front" | "rear", by: number): number =>
  (Math.atan((end === "front" ? by : -by) / (truck.axles.front.station - truck.axles.rear.station)) * 180) /
  Math.PI;

export function RadiusAsk({ truck, end, radius, source, units, onDone }: Asked) {
  const setRadius = useTruck((s) => s.setRadius);
  const by = radius - truck.axles[end].tire_radius_loaded;
  const amount = length(Math.abs(by), units);
  const way = by < 0 ? "lower" : "higher";
  const lean = leans(truck, end, by);
  const take = (meant: "sits" | "slip") => () => {
    void setRadius(end, radius, meant, source).then((had) => had && onDone());
  };
  const here = useRef<HTMLDivElement>(null);
  useEffect(() => {
    here.current?.scrollIntoView({ block: "nearest" });
    here.current?.focus();
  }, []);
  return (
    <div
      ref={here}
      tabIndex={-1}
      role="group"
      aria-label={`Loaded radius, ${end}`}
      style={{ gridColumn: "1 / -1" }}
    >
      <p>
        {length(radius, units)} is {amount} {by < 0 ? "less" : "more"} than is in force. What was meant?
      </p>
      <div style={{ display: "flex", flexWrap: "wrap", gap: "0.5rem", padding: "0.375rem 0" }}>
        <Button onPress={take("sits")}>The tire was measured: the truck sits {way}</Button>
        <Button onPress={take("slip")}>The figure was wrong: heights stand</Button>
        <Button onPress={onDone}>Leave it</Button>
      </div>
      <p className="quiet">
        Sits {way}: axle, links and all that stands beside them at the {end} go {amount} {way} off the floor,
        by less toward the other axle, the center of gravity too; the frame leans {plain(Math.abs(lean), 2)}°
        more nose {lean > 0 ? "up" : "down"}, and angles stay as they are on the frame. Heights stand: only
        the axle’s line goes {amount} {way} between mounts that stay.
      </p>
    </div>
  );
}
