/** The whole truck from the left, to scale: both axles, the rails between them, the center of gravity, the marks. */

import styled from "styled-components";

import { f, line, type Xy } from "../../floor/geometry";
import { CenterOfGravity, Ground, Ink } from "../../floor/Parts";
import type { TruckDocument } from "../../state/truck";
import { length, plain, type Units } from "../../units/tape";

const WIDE = 1120;
const HIGH = 200;
const AIR_MM = 450;

const Sheet = styled.svg`
  width: 100%;
  max-height: 30vh;
  background: var(--sheet);
  text {
    font:
      500 13px "IBM Plex Sans Condensed",
      sans-serif;
    fill: var(--ink);
    stroke: var(--sheet);
    stroke-width: 3px;
    paint-order: stroke;
  }
`;

/** How far the truck's own line over both axle centers leans: rake, degrees, + nose up. */
export function rakeOf({ axles }: TruckDocument): number {
  const { front, rear } = axles;
  const rise = front.tire_radius_loaded - rear.tire_radius_loaded;
  return (Math.atan2(rise, front.station - rear.station) * 180) / Math.PI;
}

export function Whole({ truck, units }: { truck: TruckDocument; units: Units }) {
  const { front, rear } = truck.axles;
  const r = Math.max(front.tire_diameter, rear.tire_diameter) / 2;
  const [behind, ahead] = [rear.station - r - AIR_MM, front.station + r + AIR_MM];
  const tall = Math.max(truck.vehicle.cg_height + 250, 2 * r + 120);
  const scale = Math.min(WIDE / (ahead - behind), (HIGH - 34) / tall);
  const left = (WIDE - (ahead - behind) * scale) / 2;
  const to = (x: number, z: number): Xy => [left + (ahead - x) * scale, HIGH - 30 - z * scale];
  const cgX = rear.station + truck.vehicle.front_share * (front.station - rear.station);
  const wheelbase = front.station - rear.station;
  const [a, b] = [to(front.station, 0), to(rear.station, 0)];
  return (
    <Sheet
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label={`From the left: wheelbase ${length(wheelbase, units)}, rake ${plain(rakeOf(truck), 1)} degrees`}
    >
      <Ink>
        <Ground y={to(0, 0)[1]} width={WIDE} />
        {truck.rails && <Rail rails={truck.rails} ends={[behind + 120, ahead - 120]} to={to} />}
        {[front, rear].map((axle) => (
          <Wheel key={axle.station} axle={axle} to={to} scale={scale} />
        ))}
        <CenterOfGravity at={to(cgX, truck.vehicle.cg_height)} />
        {truck.marks.map(({ id, at }) => {
          const [x, y] = to(at[0], at[2]);
          return <path key={id} className="medium" d={`M${f(x - 5)} ${f(y)}h10M${f(x)} ${f(y - 5)}v10`} />;
        })}
        <path className="thin" d={line([a[0], a[1] + 18], [b[0], b[1] + 18])} />
      </Ink>
      <text x={(a[0] + b[0]) / 2} y={HIGH - 16} textAnchor="middle">
        wheelbase {length(wheelbase, units)}
      </text>
      <text x={10} y={18}>
        ◄ FRONT
      </text>
      <text x={WIDE - 10} y={18} textAnchor="end">
        rake {plain(rakeOf(truck), 1)}° nose up
      </text>
    </Sheet>
  );
}

type To = (x: number, z: number) => Xy;

function Rail(props: { rails: NonNullable<TruckDocument["rails"]>; ends: [number, number]; to: To }) {
  const { rails, ends, to } = props;
  const top = rails.underside + rails.depth;
  const corners = [
    to(ends[1], rails.underside),
    to(ends[0], rails.underside),
    to(ends[0], top),
    to(ends[1], top),
  ];
  return <path className="steel medium" d={`${line(...corners)}Z`} />;
}

function Wheel(props: { axle: TruckDocument["axles"]["front"]; to: To; scale: number }) {
  const { axle, to, scale } = props;
  const [x, y] = to(axle.station, axle.tire_radius_loaded);
  return (
    <g>
      <circle
        className="rubber phantom medium"
        fillOpacity={0.4}
        cx={f(x)}
        cy={f(y)}
        r={f((axle.tire_diameter / 2) * scale)}
      />
      <circle className="thin" cx={f(x)} cy={f(y)} r={4} />
    </g>
  );
}
