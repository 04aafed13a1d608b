/** The things on the floor, each drawn as a shop drawing would: in three projections, from chassis points. */

import { memo, type ReactNode } from "react";
import styled from "styled-components";

import type { ChassisPoint as Point } from "../units/brands";
import { f, hull, line, outline, type View, type Xy } from "./geometry";

export interface Scene {
  view: View;
  /** Chassis point to px. */
  to: (point: Point) => Xy;
  /** Axle point, as it stands at ride, to where it stands now. */
  place: (point: Point) => Point;
  scale: number;
}

export const Ink = styled.g`
  stroke-linecap: round;
  stroke-linejoin: round;
  fill: none;
  stroke: var(--ink);
  .heavy {
    stroke-width: 1.8;
  }
  .medium {
    stroke-width: 1.2;
  }
  .thin {
    stroke-width: 0.7;
  }
  .steel {
    fill: var(--steel);
  }
  .deep {
    fill: var(--steel-deep);
  }
  .sheet {
    fill: var(--sheet);
  }
  .rubber {
    fill: var(--rubber);
    stroke: var(--rubber-ink);
  }
  .phantom {
    stroke: var(--rubber-ink);
    stroke-dasharray: 14 4 3 4;
  }
  .center {
    stroke: var(--line);
    stroke-width: 0.7;
    stroke-dasharray: 16 4 3 4;
  }
  .hidden {
    stroke-dasharray: 5 3;
  }
  .far {
    stroke: var(--far);
  }
  .zone {
    stroke: var(--accent);
    stroke-width: 1.1;
    stroke-dasharray: 2 4;
  }
  .solid {
    fill: var(--ink);
  }
  .coil {
    stroke: var(--steel-deep);
  }
  .coil-edge {
    stroke: var(--ink);
  }
  .far > .coil-edge {
    stroke: var(--far);
  }
`;

/** Half the width of a bell crank about its ends, mm. */
const CRANK_MM = 26;

const circle = ([x, y]: Xy, r: number, className: string, key?: string | number) => (
  <circle key={key} cx={f(x)} cy={f(y)} r={f(Math.max(r, 0))} className={className} />
);

const corners = (low: Point, high: Point): Point[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map((n) => [
    n & 1 ? high[0] : low[0],
    n & 2 ? high[1] : low[1],
    n & 4 ? high[2] : low[2],
  ]);

interface TireSize {
  track: number;
  radius: number;
  diameter: number;
  width: number;
}

/** A wheel and tire on one side (+1 left). The side view shows it as a phantom, so that the links stay in sight. */
export function Tire({ scene, size, side }: { scene: Scene; size: TireSize; side: 1 | -1 }) {
  const { view, to, place, scale } = scene;
  const middle: Point = [0, (side * size.track) / 2, size.radius];
  const c = to(place(middle));
  const r = size.diameter / 2;
  if (view === "side") {
    if (side < 0) return null;
    const flat = Math.acos(Math.min(size.radius / r, 1));
    const from: Xy = [c[0] - r * scale * Math.sin(flat), c[1] + size.radius * scale];
    const to_: Xy = [c[0] + r * scale * Math.sin(flat), from[1]];
    return (
      <g>
        <path
          className="rubber phantom medium"
          fillOpacity={0.35}
          d={`M${f(from[0])} ${f(from[1])}A${f(r * scale)} ${f(r * scale)} 0 1 1 ${f(to_[0])} ${f(to_[1])}Z`}
        />
        {circle(c, r * 0.9 * scale, "phantom thin")}
        {circle(c, r * 0.56 * scale, "phantom thin")}
      </g>
    );
  }
  const half = size.width / 2;
  const square = (reach: number, out: number, low: number, high: number): Xy[] =>
    corners([-reach, middle[1] - out, size.radius + low], [reach, middle[1] + out, size.radius + high]).map(
      (p) => to(place(p)),
    );
  const shoulder = 0.93;
  const body =
    view === "rear"
      ? outline([...square(0, half, -size.radius, r * shoulder), ...square(0, half * 0.84, -size.radius, r)])
      : outline([...square(r * shoulder, half, 0, 0), ...square(r, half * 0.84, 0, 0)]);
  const grooves = [-0.5, -0.17, 0.17, 0.5].map((part) => {
    const y = middle[1] + part * half;
    const ends: [Point, Point] =
      view === "rear"
        ? [
            [0, y, size.radius - size.radius * 0.97],
            [0, y, size.radius + r * 0.985],
          ]
        : [
            [-r * 0.985, y, size.radius],
            [r * 0.985, y, size.radius],
          ];
    return <path key={part} className="thin rubber" d={line(...ends.map((p) => to(place(p))))} />;
  });
  return (
    <g>
      <path className="rubber medium" d={body} />
      {grooves}
    </g>
  );
}

interface AxleSize extends TireSize {
  tube: number;
  pinion: Point;
}

/** Housing, differential, pinion and the first part of the shaft. */
export function Housing({ scene, size, shaft }: { scene: Scene; size: AxleSize; shaft: ReactNode }) {
  const { view, to, place, scale } = scene;
  const bowl = Math.min(size.diameter * 0.17, size.radius * 0.42);
  const center: Point = [0, size.pinion[1], size.radius];
  const c = to(place(center));
  const joint = to(place(size.pinion));
  const nose = to(place(between(center, size.pinion, 0.86)));
  const flange = size.track / 2 - size.width * 0.62;
  const tube = (from: number, until: number, radius: number): string =>
    outline(
      corners([-radius, from, size.radius - radius], [radius, until, size.radius + radius]).map((p) =>
        to(place(p)),
      ),
    );
  const r = size.tube / 2;
  if (view === "side") {
    return (
      <g>
        {shaft}
        <path className="steel medium" d={hull(c, bowl * 0.72 * scale, nose, r * 0.85 * scale)} />
        {circle(c, bowl * scale, "steel heavy")}
        {circle(c, bowl * 0.82 * scale, "thin")}
        {circle(c, r * scale, "deep medium")}
        {circle(c, r * 0.42 * scale, "sheet thin")}
        <Yoke joint={joint} scale={scale} />
      </g>
    );
  }
  const cover = [...Array(10).keys()].map((n) => (n / 10) * 2 * Math.PI);
  const pointy = view === "top";
  return (
    <g>
      {pointy && shaft}
      <path className="steel medium" d={tube(-flange, flange, r)} />
      {[-1, 1].map((side) => (
        <path
          key={side}
          className="deep medium"
          d={tube(side * flange - 14, side * flange + 14, Math.max(r * 1.9, 70))}
        />
      ))}
      {pointy && <path className="steel medium" d={hull(c, bowl * 0.72 * scale, nose, r * 0.85 * scale)} />}
      {circle(c, bowl * scale, "steel heavy")}
      {!pointy && circle(c, bowl * 0.8 * scale, "thin")}
      {!pointy &&
        cover.map((angle, n) =>
          circle(
            [c[0] + bowl * 0.9 * scale * Math.cos(angle), c[1] + bowl * 0.9 * scale * Math.sin(angle)],
            1.3,
            "solid",
            n,
          ),
        )}
      {pointy && <Yoke joint={joint} scale={scale} />}
    </g>
  );
}

function Yoke({ joint, scale }: { joint: Xy; scale: number }) {
  return (
    <g>
      {circle(joint, 38 * scale, "sheet medium")}
      <path className="thin" d={line([joint[0] - 38 * scale, joint[1]], [joint[0] + 38 * scale, joint[1]])} />
      <path className="thin" d={line([joint[0], joint[1] - 38 * scale], [joint[0], joint[1] + 38 * scale])} />
    </g>
  );
}

const between = (a: Point, b: Point, part: number): Point => a.map((v, i) => v + (b[i]! - v) * part) as Point;

/** The shaft from the pinion towards the middle of the truck, broken off. */
export function Shaft({ scene, from, towards }: { scene: Scene; from: Point; towards: 1 | -1 }) {
  const { to, place, scale } = scene;
  const joint = place(from);
  const far: Point = [joint[0] + towards * 620, joint[1], joint[2] + 70];
  const [a, b] = [to(joint), to(far)];
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const long = Math.hypot(dx, dy) || 1;
  const [nx, ny] = [(-dy / long) * 36 * scale, (dx / long) * 36 * scale];
  const jag = [0.33, -0.33].map((k, n): Xy => [
    b[0] + (n ? -1 : 1) * (dx / long) * 14 * scale - nx * k,
    b[1] + (n ? -1 : 1) * (dy / long) * 14 * scale - ny * k,
  ]);
  return (
    <g>
      <path
        className="sheet medium"
        d={line(
          [a[0] + nx, a[1] + ny],
          [b[0] + nx, b[1] + ny],
          jag[1]!,
          jag[0]!,
          [b[0] - nx, b[1] - ny],
          [a[0] - nx, a[1] - ny],
        )}
      />
      <path className="center" d={line(a, [b[0] + dx * 0.12, b[1] + dy * 0.12])} />
    </g>
  );
}

export interface RailSize {
  outside: number;
  depth: number;
  flange: number;
  underside: number;
  from: number;
  until: number;
}

const RAIL_WALL_MM = 7;

/** The frame's side rails: C sections, broken off at both ends. */
export function Rails({ scene, size }: { scene: Scene; size: RailSize }) {
  if (scene.view === "rear") return <RailEnds scene={scene} size={size} />;
  if (scene.view === "side") return <RailSide scene={scene} size={size} />;
  return <RailTops scene={scene} size={size} />;
}

interface RailProps {
  scene: Scene;
  size: RailSize;
}

function RailEnds({ scene: { to }, size: { outside, depth, flange, underside } }: RailProps) {
  const top = underside + depth;
  const section = (side: number): Xy[] => {
    const y = (side * outside) / 2;
    const inn = y - side * flange;
    const web = y - side * RAIL_WALL_MM;
    const corners: [number, number][] = [
      [inn, top],
      [y, top],
      [y, underside],
      [inn, underside],
      [inn, underside + RAIL_WALL_MM],
      [web, underside + RAIL_WALL_MM],
      [web, top - RAIL_WALL_MM],
      [inn, top - RAIL_WALL_MM],
    ];
    return corners.map(([a, b]) => to([0, a, b]));
  };
  return (
    <g>
      {[-1, 1].map((side) => (
        <path key={side} className="deep medium" d={`${line(...section(side))}Z`} />
      ))}
    </g>
  );
}

/** A band between two edges, its ends drawn broken off. */
function broken(
  { to }: Scene,
  size: RailSize,
  a: number,
  b: number,
  at: (x: number, w: number) => Point,
): string {
  const { from, until } = size;
  const [p, q, r, s] = [at(from, a), at(until, a), at(until, b), at(from, b)].map(to) as [Xy, Xy, Xy, Xy];
  const mid = (m: Xy, n: Xy, part: number, shift: number): Xy => [
    m[0] + (n[0] - m[0]) * part + shift,
    m[1] + (n[1] - m[1]) * part,
  ];
  return `${line(p, q, mid(q, r, 0.4, 7), mid(q, r, 0.6, -7), r, s, mid(s, p, 0.4, 7), mid(s, p, 0.6, -7))}Z`;
}

function RailSide({ scene, size }: RailProps) {
  const { underside, depth, from, until } = size;
  const top = underside + depth;
  return (
    <g>
      <path className="steel medium" d={broken(scene, size, underside, top, (x, w) => [x, 0, w])} />
      {[underside + RAIL_WALL_MM, top - RAIL_WALL_MM].map((z) => (
        <path key={z} className="thin hidden" d={line(scene.to([from, 0, z]), scene.to([until, 0, z]))} />
      ))}
    </g>
  );
}

function RailTops({ scene, size }: RailProps) {
  const { outside, flange, from, until } = size;
  return (
    <g>
      {[-1, 1].map((side) => {
        const y = (side * outside) / 2;
        const web = y - side * RAIL_WALL_MM;
        return (
          <g key={side}>
            <path
              className="steel medium"
              d={broken(scene, size, y, y - side * flange, (x, w) => [x, w, 0])}
            />
            <path className="thin hidden" d={line(scene.to([from, web, 0]), scene.to([until, web, 0]))} />
          </g>
        );
      })}
    </g>
  );
}

/** A link: tube between two rod ends, each an eye on its bolt, a shank and a jam nut. */
export const LinkTube = memo(function LinkTube(props: {
  a: Xy;
  b: Xy;
  radius: number;
  className?: string;
  eyes?: readonly [boolean, boolean];
}) {
  const { a, b, radius, className = "", eyes = [true, true] } = props;
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const long = Math.hypot(dx, dy);
  const eye = radius * 1.25;
  const heads = (
    <>
      {eyes[0] && <Eye at={a} radius={eye} className={className} />}
      {eyes[1] && <Eye at={b} radius={eye} className={className} />}
    </>
  );
  if (long < eye * 2) return <g>{heads}</g>;
  const [ux, uy] = [dx / long, dy / long];
  const on = (s: number, out: number): Xy => [a[0] + ux * s - uy * out, a[1] + uy * s + ux * out];
  const box = (from: number, until: number, half: number) =>
    `${line(on(from, half), on(until, half), on(until, -half), on(from, -half))}Z`;
  const shank = Math.min(eye * 2.6, long * 0.3);
  const [from, until] = [eyes[0] ? shank : 0, long - (eyes[1] ? shank : 0)];
  return (
    <g>
      <path className={`sheet thin ${className}`} d={box(0, long, radius * 0.45)} />
      <path className={`sheet medium ${className}`} d={box(from, until, radius)} />
      {eyes[0] && (
        <path className={`deep thin ${className}`} d={box(from - radius * 0.55, from, radius * 0.95)} />
      )}
      {eyes[1] && (
        <path className={`deep thin ${className}`} d={box(until, until + radius * 0.55, radius * 0.95)} />
      )}
      <path className="center" strokeOpacity={0.6} d={line(on(from, 0), on(until, 0))} />
      {heads}
    </g>
  );
});

function Eye({ at, radius, className }: { at: Xy; radius: number; className: string }) {
  return (
    <g>
      {circle(at, radius, `steel medium ${className}`)}
      {circle(at, radius * 0.62, `sheet thin ${className}`)}
      {circle(at, radius * 0.28, `solid ${className}`)}
    </g>
  );
}

/** A bracket: a tab from a mount to the steel it is welded to. */
export const Tab = memo(function Tab({
  mount,
  steel,
  small,
  large,
}: {
  mount: Xy;
  steel: Xy;
  small: number;
  large: number;
}) {
  return <path className="deep thin" fillOpacity={0.7} d={hull(mount, small, steel, large)} />;
});

/** A plain tube with an eye at each end: a stop, a strap, a shaft. */
export const Strut = memo(function Strut({
  a,
  b,
  radius,
  far,
}: {
  a: Xy;
  b: Xy;
  radius: number;
  far: boolean;
}) {
  const shade = far ? "far" : "";
  return (
    <g>
      <path className={`sheet medium ${shade}`} d={hull(a, radius * 0.6, b, radius)} />
      <Eye at={a} radius={radius * 0.55} className={shade} />
      <Eye at={b} radius={radius * 0.55} className={shade} />
    </g>
  );
});

const BODY = 0.58;
/** Of the length from the lower eye: where a coil over a shock sits at either end. */
const [SEAT, PERCH] = [0.14, 0.84];
const COILS = 10;

/** A shock: its body at the frame, its shaft out of it to the axle, and the coil over it where it has one. */
export const Damper = memo(function Damper(props: {
  a: Xy;
  b: Xy;
  radius: number;
  far: boolean;
  coil?: boolean;
}) {
  const { a, b, radius, far, coil = false } = props;
  const shade = far ? "far" : "";
  const at = (part: number): Xy => [b[0] + (a[0] - b[0]) * part, b[1] + (a[1] - b[1]) * part];
  const out = at(BODY);
  const long = Math.hypot(a[0] - b[0], a[1] - b[1]) || 1;
  const body = coil ? radius * 0.7 : radius;
  const side: Xy = [(-(a[1] - b[1]) / long) * body, ((a[0] - b[0]) / long) * body];
  const corner = (from: Xy, hand: number): Xy => [from[0] + hand * side[0], from[1] + hand * side[1]];
  const ends = { a: at(1 - SEAT), b: at(1 - PERCH), radius: radius * 1.1, far };
  return (
    <g>
      {coil && <Coil {...ends} behind />}
      <path className={`deep medium ${shade}`} d={hull(a, radius * 0.35, out, radius * 0.35)} />
      <path
        className={`sheet medium ${shade}`}
        d={`${line(corner(b, 1), corner(out, 1), corner(out, -1), corner(b, -1))}Z`}
      />
      {coil && <Coil {...ends} />}
      <Eye at={a} radius={radius * 0.6} className={shade} />
      <Eye at={b} radius={radius * 0.6} className={shade} />
    </g>
  );
});

interface CoilProps {
  a: Xy;
  b: Xy;
  radius: number;
  far: boolean;
  /** The strands on the side that looks away. */
  behind?: boolean;
}

/** A coil spring from seat to seat, seen from its side: its strands one way in front, the other way behind. */
export const Coil = memo(function Coil({ a, b, radius, far, behind = false }: CoilProps) {
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (long < 2 * radius) return <Eye at={a} radius={radius} className={far ? "far" : ""} />;
  const [ux, uy] = [(b[0] - a[0]) / long, (b[1] - a[1]) / long];
  const on = (s: number, side: number): Xy => [
    a[0] + ux * s * long - uy * side * radius,
    a[1] + uy * s * long + ux * side * radius,
  ];
  const half = 0.5 / COILS;
  const strands = [...Array(COILS).keys()]
    .map((n) => n / COILS)
    .map((s) => (behind ? line(on(s + half, 1), on(s + 2 * half, -1)) : line(on(s, -1), on(s + half, 1))))
    .join("");
  const wire = Math.max(radius * 0.2, 1.4);
  return (
    <g strokeLinecap="round" fill="none" className={far ? "far" : ""}>
      <path className="coil-edge" style={{ strokeWidth: wire + 1.6 }} d={strands} />
      <path className="coil" style={{ strokeWidth: wire }} d={strands} />
    </g>
  );
});

/** A bell crank on its pin. */
export function Crank({ ends, pin, scale }: { ends: readonly [Xy, Xy]; pin: Xy; scale: number }) {
  return (
    <g>
      <path className="deep medium" d={hull(ends[0], CRANK_MM * scale, ends[1], CRANK_MM * scale)} />
      <circle className="sheet medium" cx={f(pin[0])} cy={f(pin[1])} r={16 * scale} />
    </g>
  );
}

/** A slider's shoe in its upright guide. */
export function Shoe({ scene, at }: { scene: Scene; at: Point }) {
  const { to, scale, view } = scene;
  const reach = view === "top" ? [1, 0] : [0, 1];
  const guide = (side: number): Xy[] =>
    [-150, 150].map((s) => to([at[0] + s * reach[0]!, at[1] + side * 34, at[2] + s * reach[1]!]));
  return (
    <g>
      {view !== "side" &&
        [-1, 1].map((side) => <path key={side} className="heavy" d={line(...guide(side))} />)}
      {circle(to(at), 30 * scale, "deep medium")}
    </g>
  );
}

/** The ground, hatched below. */
export function Ground({ y, width, from = 0 }: { y: number; width: number; from?: number }) {
  const hatch = [...Array(Math.max(1, Math.ceil((width - from) / 11))).keys()];
  return (
    <g>
      <path className="heavy" d={line([from, y], [width, y])} />
      <path
        className="thin far"
        d={hatch.map((n) => line([from + n * 11 + 8, y + 1], [from + n * 11, y + 9])).join("")}
      />
    </g>
  );
}

/** The center of gravity: the quartered circle. */
export function CenterOfGravity({ at }: { at: Xy }) {
  const [x, y] = at;
  const r = 8;
  return (
    <g>
      {circle(at, r, "sheet medium")}
      <path
        className="solid"
        stroke="none"
        d={`M${f(x)} ${f(y)}h${r}a${r} ${r} 0 0 1 ${-r} ${r}zM${f(x)} ${f(y)}h${-r}a${r} ${r} 0 0 1 ${r} ${-r}z`}
      />
    </g>
  );
}
