/** The truck as a drawing: both axles as they are designed, from the left and from above, with every figure in force at
 * its place; press one to set it, or to say where it comes from. */

import { useRef } from "react";
import styled from "styled-components";

import type { Document } from "../../document/document";
import { useSize } from "../../floor/aim";
import { atRide, type Cell, f, line, type View, type Xy } from "../../floor/geometry";
import { CenterOfGravity, Ground, Ink } from "../../floor/Parts";
import { Picture } from "../../floor/Plate";
import type { TruckDocument } from "../../state/truck";
import { length, plain, type Units } from "../../units/tape";
import { type Chip, Chips } from "./Chips";

const AIR_MM = 420;
const [SIDE_HIGH, TOP_HIGH] = [312, 246];
/** Where the floor stands above the lower rim of the side view, px: figures that belong on it stand below. */
const FOOT = 82;
/** The middle of a figure stands no nearer to the paper's edge, px: all of it is on the paper. */
const INSIDE = 78;
/** Two rows of figures there, px below the floor. */
const ROWS = [26, 58] as const;

const Sheet = styled.div`
  position: relative;
  background: var(--sheet);
  border: 1px solid var(--hair);
  overflow: hidden;
  svg {
    display: block;
    width: 100%;
  }
  .name {
    position: absolute;
    top: 4px;
    left: 10px;
    font-size: 0.8125rem;
    color: var(--quiet);
    font-weight: 600;
  }
  .lean {
    position: absolute;
    top: 4px;
    right: 10px;
    font-size: 0.875rem;
    color: var(--quiet);
  }
`;

/** How far the truck's own line over both axle centers leans: rake, degrees, + nose up. */
export function rakeOf({ axles }: TruckDocument): number {
  const { front, rear } = axles;
  const rise = front.tire_radius_loaded - rear.tire_radius_loaded;
  return (Math.atan2(rise, front.station - rear.station) * 180) / Math.PI;
}

type End = "front" | "rear";
const ENDS: readonly End[] = ["front", "rear"];
export type Pair = Record<End, Document | null>;

interface Shown {
  truck: TruckDocument;
  /** The design that stands for each axle, where there is one. */
  pair: Pair;
  units: Units;
}

export function Drawn({ truck, pair, units }: Shown) {
  const place = useRef<HTMLDivElement>(null);
  const width = Math.max(useSize(place)?.width ?? 1200, 560);
  const scale = scaleOf(truck, width);
  const rake = rakeOf(truck);
  const chips = [...sideChips(truck, scale, width), ...topChips(truck, scale, width)].map((chip) => ({
    ...chip,
    at: [Math.min(Math.max(chip.at[0], INSIDE), width - INSIDE), chip.at[1]] as Xy,
  }));
  return (
    <Sheet ref={place}>
      <Side {...{ truck, pair, units, scale, width }} />
      <Top {...{ truck, pair, units, scale, width }} />
      <span className="name">From the left ◄ front; below it, from above</span>
      <span className="lean">
        wheelbase {length(truck.axles.front.station - truck.axles.rear.station, units)};{" "}
        {Math.abs(rake) < 0.05 ? "level" : `${plain(Math.abs(rake), 1)}° nose ${rake > 0 ? "up" : "down"}`}
      </span>
      <Chips {...{ truck, units, chips }} />
    </Sheet>
  );
}

/** px a mm: as large as both views can be, and what is ahead of the middle of the truck. */
interface Scale {
  px: number;
  middle: number;
}

function scaleOf({ axles, vehicle }: TruckDocument, width: number): Scale {
  const { front, rear } = axles;
  const r = Math.max(front.tire_diameter, rear.tire_diameter) / 2;
  const [behind, ahead] = [rear.station - r - AIR_MM, front.station + r + AIR_MM];
  const tall = Math.max(vehicle.cg_height + 300, 2 * r + 240);
  const wide = Math.max(front.track + front.tire_width, rear.track + rear.tire_width) + 60;
  const px = Math.min(width / (ahead - behind), (SIDE_HIGH - FOOT) / tall, TOP_HIGH / wide);
  return { px, middle: (behind + ahead) / 2 };
}

const across = ({ px, middle }: Scale, width: number, x: number) => width / 2 - (x - middle) * px;
/** Down in the side view to a height, and in the view from above, which stands below it, to so far left of center. */
const sideY = ({ px }: Scale, z: number) => SIDE_HIGH - FOOT - z * px;
const topY = ({ px }: Scale, y: number) => SIDE_HIGH + TOP_HIGH / 2 - y * px;

type Placed = Shown & { scale: Scale; width: number };

/** One axle's design where its axle stands on the truck; a wheel alone where it has none. */
function Axle(props: Placed & { end: End; view: Extract<View, "side" | "top">; cell: Cell }) {
  const { truck, pair, scale, end, view, cell } = props;
  const own = truck.axles[end];
  const design = pair[end];
  if (!design) return null;
  const z = (cell.height / 2 - FOOT) / scale.px;
  const aim = {
    middle: [scale.middle - own.station, 0, view === "side" ? z : 0] as [number, number, number],
    scale: scale.px,
  };
  const standing = atRide(design.axle.tire_radius_loaded);
  return <Picture {...{ view, document: design, standing, aim, cell }} travel={0} close />;
}

function Side(props: Placed) {
  const { truck, pair, scale, width } = props;
  const cell = { width, height: SIDE_HIGH };
  const to = (x: number, z: number): Xy => [across(scale, width, x), sideY(scale, z)];
  const { front, rear } = truck.axles;
  const cgX = rear.station + truck.vehicle.front_share * (front.station - rear.station);
  return (
    <svg viewBox={`0 0 ${width} ${SIDE_HIGH}`} height={SIDE_HIGH} aria-hidden="true">
      <Ink>
        <Ground y={to(0, 0)[1]} width={width} />
        {truck.rails && <Rail {...{ truck, to }} />}
      </Ink>
      {ENDS.map((end) => (
        <Axle key={end} {...props} end={end} view="side" cell={cell} />
      ))}
      <Ink>
        {ENDS.filter((end) => !pair[end]).map((end) => (
          <Wheel key={end} axle={truck.axles[end]} to={to} scale={scale.px} />
        ))}
        <CenterOfGravity at={to(cgX, truck.vehicle.cg_height)} />
        <path className="thin" d={line(to(cgX, truck.vehicle.cg_height - 60), to(cgX, 0))} />
        {truck.marks.map(({ id, at }) => {
          const [x, y] = to(at[0], at[2]);
          return <path key={id} className="medium" d={`M${f(x - 5)} ${f(y)}h10M${f(x)} ${f(y - 5)}v10`} />;
        })}
      </Ink>
    </svg>
  );
}

function Top(props: Placed) {
  const { truck, pair, scale, width } = props;
  const cell = { width, height: TOP_HIGH };
  const to = (x: number, y: number): Xy => [across(scale, width, x), TOP_HIGH / 2 + y * scale.px];
  return (
    <svg viewBox={`0 0 ${width} ${TOP_HIGH}`} height={TOP_HIGH} aria-hidden="true">
      {ENDS.map((end) => (
        <Axle key={end} {...props} end={end} view="top" cell={cell} />
      ))}
      <Ink>
        {ENDS.filter((end) => !pair[end]).flatMap((end) =>
          [1, -1].map((hand) => {
            const { station, track, tire_width: wide, tire_diameter: long } = truck.axles[end];
            const [x, y] = to(station + long / 2, (hand * track) / 2 - wide / 2);
            return (
              <rect key={`${end} ${hand}`} className="rubber phantom medium" x={f(x)} y={f(y)} width={f(long * scale.px)} height={f(wide * scale.px)} />
            );
          }),
        )}
      </Ink>
    </svg>
  ); // prettier-ignore
}

type To = (x: number, z: number) => Xy;

function Rail({ truck, to }: { truck: TruckDocument; to: To }) {
  const { underside, depth } = truck.rails!;
  const { front, rear } = truck.axles;
  const ends = [rear.station - rear.tire_diameter * 0.8, front.station + front.tire_diameter * 0.8] as const;
  const top = underside + depth;
  const corners = [to(ends[1], underside), to(ends[0], underside), to(ends[0], top), to(ends[1], top)];
  return <path className="steel medium" d={`${line(...corners)}Z`} />;
}

function Wheel(props: { axle: TruckDocument["axles"]["front"]; to: To; scale: number }) {
  const { axle, to, scale } = props;
  const [x, y] = to(axle.station, axle.tire_radius_loaded);
  return (
    <g>
      <circle className="rubber phantom medium" fillOpacity={0.4} cx={f(x)} cy={f(y)} r={f((axle.tire_diameter / 2) * scale)} />
      <circle className="thin" cx={f(x)} cy={f(y)} r={4} />
    </g>
  ); // prettier-ignore
}

/** How high the figure of the rails' underside stands: under them, clear of the links. */
const RAIL_CHIP_MM = 170;

/** Where each figure stands in the view from the left. */
function sideChips({ axles, vehicle, rails }: TruckDocument, scale: Scale, width: number): Chip[] {
  const at = (x: number, z: number): Xy => [across(scale, width, x), sideY(scale, z)];
  const { front, rear } = axles;
  const cg = rear.station + vehicle.front_share * (front.station - rear.station);
  const [row, below] = ROWS.map((px) => SIDE_HIGH - FOOT + px) as [number, number];
  const [[cgAcross], [frontAcross], [rearAcross]] = [at(cg, 0), at(front.station, 0), at(rear.station, 0)];
  const found: Chip[] = [
    { path: "vehicle.mass", before: "weighs", at: [cgAcross, sideY(scale, vehicle.cg_height) - 26] },
    { path: "vehicle.front_share", before: "carries", at: [frontAcross - 62, row] },
    { path: "vehicle.brake_front", before: "brakes", at: [frontAcross + 62, row] },
    { path: "axles.front.station", before: "front axle at", at: [frontAcross - 62, below] },
    { path: "vehicle.cg_height", before: "center of gravity", at: [cgAcross, below] },
    { path: "axles.rear.station", before: "rear axle at", at: [rearAcross + 30, row] },
  ];
  for (const end of ENDS) {
    const own = axles[end];
    const out = end === "front" ? 1 : -1;
    const rim = own.station + out * (own.tire_diameter / 2 + 40);
    const side = at(rim, 0)[0] - out * 62;
    found.push(
      { path: `axles.${end}.tire_diameter`, before: "tire", at: [side, sideY(scale, own.tire_diameter) + 12] },
      { path: `axles.${end}.tire_radius_loaded`, before: "hub at", at: [side, sideY(scale, own.tire_radius_loaded)] },
    ); // prettier-ignore
  }
  if (rails) {
    const [x] = at(rear.station + 0.36 * (front.station - rear.station), 0);
    found.push(
      { path: "rails.depth", before: "rail", at: [x + 16, sideY(scale, rails.underside + rails.depth) - 18] },
      { path: "rails.underside", before: "rail at", at: [x, sideY(scale, RAIL_CHIP_MM)] },
    );
  }
  return found;
}

/** And in the view from above. */
function topChips({ axles, rails }: TruckDocument, scale: Scale, width: number): Chip[] {
  const { front, rear } = axles;
  const found = ENDS.flatMap((end): Chip[] => {
    const own = axles[end];
    const out = end === "front" ? 1 : -1;
    const side = across(scale, width, own.station + out * (own.tire_diameter / 2 + 40)) - out * 62;
    return [
      { path: `axles.${end}.tire_width`, before: "tire width", at: [side, topY(scale, own.track / 2)] },
      { path: `axles.${end}.track`, before: "track", at: [side, topY(scale, 0)] },
    ];
  });
  const middle = across(scale, width, (front.station + rear.station) / 2);
  const under = topY(scale, 0);
  return rails
    ? [
        ...found,
        { path: "rails.outside_width", before: "frame", at: [middle, under - 20] },
        { path: "rails.flange", before: "flange", at: [middle, under + 20] },
      ]
    : found;
}
