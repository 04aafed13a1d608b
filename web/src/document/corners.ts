/** Springs, shocks, stops, straps and the anti-roll bar of a design, which may have none; and changing them. */

import type { Document, Point } from "./document";

export type Corners = NonNullable<Document["corners"]>;
export type Shock = NonNullable<Corners["shocks"]>[number];
export type Stop = NonNullable<Corners["stops"]>[number];
export type Strap = NonNullable<Corners["straps"]>[number];
export type Bar = NonNullable<Corners["anti_roll"]>;
export type Listed = "shocks" | "stops" | "straps";
export type Strut = Shock | Stop | Strap;
const LISTED: readonly Listed[] = ["shocks", "stops", "straps"];

/** A list of the corners: a file may leave it out. */
const listOf = (corners: Partial<Corners> | null | undefined, listed: Listed): Strut[] =>
  corners?.[listed] ?? [];

export const shocksOf = (document: Document) => listOf(document.corners, "shocks") as Shock[];
export const stopsOf = (document: Document) => listOf(document.corners, "stops") as Stop[];
export const strapsOf = (document: Document) => listOf(document.corners, "straps") as Strap[];
export const barOf = (document: Document): Bar | null => document.corners?.anti_roll ?? null;

export interface Found {
  listed: Listed;
  strut: Strut;
}

/** Every shock, stop and strap, in the file's order. */
export const strutsOf = (document: Document): Found[] => [
  ...shocksOf(document).map((strut): Found => ({ listed: "shocks", strut })),
  ...stopsOf(document).map((strut): Found => ({ listed: "stops", strut })),
  ...strapsOf(document).map((strut): Found => ({ listed: "straps", strut })),
];

export const strutOf = (document: Document, id: string): Found | undefined =>
  strutsOf(document).find(({ strut }) => strut.id === id);

export const isShock = (strut: Strut): strut is Shock => "extended" in strut;
export const isStop = (strut: Strut): strut is Stop => "free" in strut;

/** What sort a shock is, said or not. */
export const sortOf = (shock: Shock): NonNullable<Shock["kind"]> =>
  shock.kind ?? (shock.spring ? "coilover" : shock.air ? "air_shock" : "damper");

const WITHIN_MM = 0.01;

const mirrors = (a: Point, b: Point): boolean =>
  Math.abs(a[0] - b[0]) < WITHIN_MM && Math.abs(a[1] + b[1]) < WITHIN_MM && Math.abs(a[2] - b[2]) < WITHIN_MM;

/** Its mirror image, if there is one: both its points stand across from this one's. */
export function twinOf(document: Document, { listed, strut }: Found): Strut | undefined {
  return strutsOf(document).find(
    (other) =>
      other.listed === listed &&
      other.strut.id !== strut.id &&
      Math.abs(strut.axle.at[1]) >= WITHIN_MM &&
      mirrors(other.strut.axle.at as Point, strut.axle.at as Point) &&
      mirrors(other.strut.frame.at as Point, strut.frame.at as Point),
  )?.strut;
}

const empty = (): Corners => ({ shocks: [], stops: [], straps: [] });

function withCorners(document: Document, change: (corners: Corners) => Corners): Document {
  const corners = change(document.corners ?? empty());
  const none = LISTED.every((listed) => listOf(corners, listed).length === 0);
  return { ...document, corners: none && !corners.anti_roll ? null : corners };
}

/** The sizes of one changed, and of its mirror image with it; `null` leaves both out. */
export function withStrut(
  document: Document,
  found: Found,
  change: ((strut: Strut) => Strut) | null,
): Document {
  const ids = [found.strut.id, twinOf(document, found)?.id];
  const gone = change === null ? ids : [];
  const changed = withCorners(document, (corners) => ({
    ...corners,
    [found.listed]: listOf(corners, found.listed)
      .filter((one) => !gone.includes(one.id))
      .map((one) => (change && ids.includes(one.id) ? change(one) : one)),
  }));
  return change === null ? forgotten(changed, ids) : changed;
}

/** Without what locks, pairs, zones and keep-outs say of parts that are gone. */
function forgotten(document: Document, ids: (string | undefined)[]): Document {
  const own = (name: string) => ids.some((id) => id !== undefined && name.startsWith(`${id}.`));
  const locks = Object.fromEntries(Object.entries(document.locks ?? {}).filter(([name]) => !own(name)));
  const unpaired = (document.unpaired ?? []).filter((name) => !own(name));
  return {
    ...document,
    locks: Object.keys(locks).length ? locks : null,
    unpaired: unpaired.length ? unpaired : null,
  };
}

export const withBar = (document: Document, bar: Bar | null): Document =>
  withCorners(document, (corners) => ({ ...corners, anti_roll: bar }));

export const withSettling = (document: Document, settling: number | null): Document =>
  withCorners(document, (corners) => ({ ...corners, settling }));

/** A name that nothing has yet: `coilover`, `coilover-2`. */
function freeName(document: Document, base: string): string {
  const taken = new Set([
    ...document.links.map(({ id }) => id),
    ...strutsOf(document).map(({ strut }) => strut.id),
    ...(document.room?.keep_outs ?? []).map(({ id }) => id),
  ]);
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? base : `${base}-${n}`;
    if (!taken.has(`${name}-left`) && !taken.has(`${name}-right`)) return name;
  }
}

type Both = Omit<Shock, "id" | "frame" | "axle"> | Omit<Stop, "id" | "frame" | "axle"> | object;

/** A pair, a left one and its mirror image, between points of the left. */
function withPair(
  document: Document,
  listed: Listed,
  base: string,
  [upper, lower]: [Point, Point],
  rest: Both,
): Document {
  const name = freeName(document, base);
  const pair = (["left", "right"] as const).map((side) => {
    const at = ([x, y, z]: Point) => [x, side === "left" ? y : -y, z];
    return { id: `${name}-${side}`, frame: { at: at(upper) }, axle: { on: "axle", at: at(lower) }, ...rest };
  });
  return withCorners(document, (corners) => ({
    ...corners,
    [listed]: [...listOf(corners, listed), ...(pair as unknown as Strut[])],
  }));
}

const round = (mm: number): number => Math.round(mm * 10) / 10;

/** Where there mostly is room: beside the frame, inside the tires. */
function beside(document: Document): { y: number; tube: number; behind: number } {
  const { axle } = document;
  const half = (axle.track - axle.tire_width) / 2;
  return {
    y: round(0.72 * half),
    tube: axle.tire_radius_loaded + axle.tube_diameter / 2,
    behind: axle.end === "rear" ? -100 : 100,
  };
}

const DEAD_MM = 180;
const TAKEN = 1.35;

/** What can be added: a pair of each, of a size that suits the travel, to be moved and sized. */
export const NEW: Record<string, [words: string, add: (document: Document) => Document]> = {
  coilover: ["Coilovers", (d) => addShock(d, "coilover")],
  damper: ["Plain dampers", (d) => addShock(d, "damper")],
  bypass: ["Bypass shocks", (d) => addShock(d, "bypass")],
  air_shock: ["Air shocks", (d) => addShock(d, "air_shock")],
  coil: ["Coils on their own seats", (d) => addCoil(d)],
  air: ["Air springs", (d) => addAir(d)],
  stop: ["Bump stops", (d) => addStops(d)],
  strap: ["Limit straps", (d) => addStraps(d)],
  bar: ["Anti-roll bar", (d) => withBar(d, newBar(d))],
};

/** Half the weight that this axle's springs carry, N. */
function carried(document: Document): number {
  const { vehicle, axle } = document;
  const share = axle.end === "front" ? vehicle.front_share : 1 - vehicle.front_share;
  return (Math.max(vehicle.mass * share - axle.mass, 50) * 9.80665) / 2;
}

function addShock(document: Document, kind: "coilover" | "damper" | "bypass" | "air_shock"): Document {
  const { y, tube, behind } = beside(document);
  const { bump, droop } = document.travel;
  const stroke = round((bump + droop) * TAKEN);
  const compressed = round(stroke + DEAD_MM);
  const ride = compressed + (stroke * bump) / (bump + droop || 1);
  const lower: Point = [behind, y, round(tube - 40)];
  const sizes = { kind, extended: compressed + stroke, compressed, diameter: 63.5 };
  const pressed = compressed + stroke - ride;
  const spring = { rate: round(carried(document) / (pressed + 20)), preload: 20, solid: round(stroke + 60) };
  const air = {
    pressure: round((1000 * carried(document)) / 1600),
    area: [[round(ride), 1600]],
    volume: 250_000,
  };
  const rest = kind === "coilover" ? { spring } : kind === "air_shock" ? { air } : {};
  return withPair(document, "shocks", kind.replace("_", "-"), [[behind, y, round(lower[2] + ride)], lower], {
    ...sizes,
    ...rest,
  });
}

function addCoil(document: Document): Document {
  const { y, tube } = beside(document);
  const { bump, droop } = document.travel;
  const free = round((bump + droop) * 1.6 + 120);
  const ride = round(free - droop - 25);
  const spring = {
    rate: round(carried(document) / (free - ride)),
    preload: 0,
    solid: round(free * 0.62),
  };
  const sizes = {
    kind: "coil",
    extended: free,
    compressed: round(free - spring.solid - 1),
    diameter: 130,
    spring,
  };
  return withPair(document, "shocks", "coil", [[0, y, round(tube + ride)], [0, y, round(tube)]], sizes); // prettier-ignore
}

function addAir(document: Document): Document {
  const { y, tube } = beside(document);
  const { bump, droop } = document.travel;
  const ride = round(bump + 90);
  const pressure = round((1000 * carried(document)) / 13_000);
  const area = [
    [round(ride - bump), 15_500],
    [ride, 13_000],
    [round(ride + droop), 9_500],
  ];
  const sizes = {
    kind: "air", extended: round(ride + droop + 25), compressed: 75, diameter: 165, air: { pressure, area, volume: 900_000 },
  }; // prettier-ignore
  return withPair(document, "shocks", "air-spring", [[0, y, round(tube + ride)], [0, y, round(tube)]], sizes); // prettier-ignore
}

function addStops(document: Document): Document {
  const { y, tube } = beside(document);
  const { bump } = document.travel;
  const [free, solid] = [90, 40];
  const points: [Point, Point] = [[0, round(0.85 * y), round(tube + bump + solid)], [0, round(0.85 * y), round(tube)]]; // prettier-ignore
  return withPair(document, "stops", "bump-stop", points, { kind: "rubber", free, solid });
}

function addStraps(document: Document): Document {
  const { y, tube, behind } = beside(document);
  const { droop } = document.travel;
  const high = 300;
  const points: [Point, Point] = [[-behind / 2, round(0.75 * y), round(tube + high)], [-behind / 2, round(0.75 * y), round(tube)]]; // prettier-ignore
  return withPair(document, "straps", "strap", points, {
    length: round((high + droop) / 1.08),
    stretch: 0.08,
  });
}

function newBar(document: Document): Bar {
  const { y, tube, behind } = beside(document);
  const z = round(tube + 60);
  return {
    on: "frame",
    pivot: [round(-3.5 * behind), round(0.5 * y), z],
    arm: [round(-1.2 * behind), round(0.6 * y), z],
    link: [round(-1.2 * behind), round(0.6 * y), round(tube - 90)],
    diameter: 25.4,
  };
}
