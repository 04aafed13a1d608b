/** Steering of a front axle: what the drag link does through the cycle, and how it lies beside the panhard bar. */

import type { Document, Point } from "../../document/document";
import { type Field, number, numeric } from "../../document/typed";
import { edited, useTaking } from "../../state/room";
import { RunFigures } from "../../panels/RunFigures";
import { RunFindings } from "../../panels/RunFindings";
import { Sizes } from "../../panels/Sizes";
import { Button, Trouble } from "../../ui/controls";
import { FigureTable } from "../../ui/tables";
import { length, lengthFigure, plain, readLength, type Units } from "../../units/tape";
import type { Shown } from "./Cycle";
import { OnOwnFloor } from "./OnOwnFloor";

type Gear = NonNullable<Document["steering"]>;

/** Where steering mostly stands: a drag link across to the right knuckle, ahead of the axle. */
function newSteering(document: Document): Gear {
  const { track, tire_width, tire_radius_loaded: z } = document.axle;
  const half = (track - tire_width) / 2;
  const knuckle: Point = [220, -Math.round(half * 0.82), Math.round(z + 80)] as unknown as Point;
  return {
    pitman: [240, Math.round(half * 0.48), Math.round(z + 90)],
    knuckle,
    kingpin: { at: [0, -Math.round(half * 1.05), z], inclination: 8 },
    lock: 28,
    diameter: 31.75,
    tie_rod: [
      [230, Math.round(half * 0.9), Math.round(z - 40)],
      [230, -Math.round(half * 0.9), Math.round(z - 40)],
    ],
  } as unknown as Gear;
}

function fieldsOf(gear: Gear, units: Units): Field<Gear>[] {
  return [
    numeric("inclination", "Kingpin’s top leans in, degrees", plain(gear.kingpin.inclination, 1), number, (g, v) => ({ ...g, kingpin: { ...g.kingpin, inclination: v } })), // prettier-ignore
    numeric("lock", "Lock, degrees", plain(gear.lock, 1), number, (g, v) => ({ ...g, lock: v })),
    numeric("diameter", "Rods’ diameter", lengthFigure(gear.diameter, units), (t) => readLength(t, units), (g, v) => ({ ...g, diameter: v })), // prettier-ignore
  ];
}

export function Steering(shown: Shown) {
  const { document, units, solved } = shown;
  const gear = document.steering ?? null;
  const { why, setWhy, take } = useTaking();
  return (
    <OnOwnFloor
      {...shown}
      help="Drag pitman joint, knuckle, kingpin and tie rod in any view, as mounts are in Links."
    >
      {!gear && (
        <>
          <p>No steering yet: nothing is said of what the truck steers by itself.</p>
          <div className="line">
            <Button
              className="main"
              onPress={() => edited((now) => ({ ...now, steering: newSteering(now) }))}
            >
              Add drag link and tie rod
            </Button>
          </div>
        </>
      )}
      {gear && (
        <>
          <RunFigures of="steering" part="drag-link" {...{ solved, units }} />
          <RunFindings {...{ document, units, solved }} of={["steering"]} />
          <Beside {...{ document, units, gear }} />
          <h2>Its sizes</h2>
          <Sizes
            of="steering"
            fields={fieldsOf(gear, units)}
            part={gear}
            onWhy={setWhy}
            onTake={(next) => take((now) => ({ ...now, steering: next }))}
          />
          <div className="line">
            <Button onPress={() => edited((now) => ({ ...now, steering: null }))}>Leave it out</Button>
          </div>
        </>
      )}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </OnOwnFloor>
  );
}

/** A bar across the truck as it is seen from behind: its slope (+ its frame end is the higher), length, height, station. */
export function acrossOf(axle: readonly number[], frame: readonly number[]) {
  const [dy, dz] = [frame[1]! - axle[1]!, frame[2]! - axle[2]!];
  return {
    slope: (Math.atan2(dz, Math.abs(dy)) * 180) / Math.PI,
    length: Math.hypot(frame[0]! - axle[0]!, dy, dz),
    height: (axle[2]! + frame[2]!) / 2,
    ahead: (axle[0]! + frame[0]!) / 2,
  };
}

/** The panhard bar and the drag link, one beside the other: the nearer alike, the less it steers. */
function Beside({ document, units, gear }: { document: Document; units: Units; gear: Gear }) {
  if (document.lateral?.kind !== "panhard")
    return <p className="quiet">There is no panhard bar to lay the drag link beside.</p>;
  const { lateral } = document;
  const [bar, link] = [acrossOf(lateral.axle.at, lateral.frame.at), acrossOf(gear.knuckle, gear.pitman)];
  const rows: [string, string, string, string][] = [
    ["Slope from behind", `${plain(bar.slope, 1)}°`, `${plain(link.slope, 1)}°`, `${plain(link.slope - bar.slope, 1)}°`],
    ["Length", length(bar.length, units), length(link.length, units), length(link.length - bar.length, units)],
    ["Mean height", length(bar.height, units), length(link.height, units), length(link.height - bar.height, units)],
    ["Ahead of the axle", length(bar.ahead, units), length(link.ahead, units), length(link.ahead - bar.ahead, units)],
  ]; // prettier-ignore
  const crossed = (lateral.frame.at[1] - lateral.axle.at[1]) * (gear.pitman[1] - gear.knuckle[1]) < 0;
  return (
    <section aria-label="Panhard bar and drag link">
      <h2>Panhard bar and drag link</h2>
      <FigureTable head={["", "Bar", "Drag link", "Apart"]} rows={rows} />
      {crossed && (
        <p>
          <strong>They run opposite ways</strong>: the bar’s frame end is on one side, the drag link’s on the
          other, so their arcs add up instead of going together.
        </p>
      )}
    </section>
  );
}
