/** One view of a design in a pose, as a picture: everything in projection, nothing to take hold of. */

import { memo, type ReactNode, useMemo } from "react";

import { sortOf } from "../document/corners";
import { KeepOuts } from "./KeepOuts";
import { type Body, bodiesOf, type Document, type Spot, spotsOf } from "../document/parts";
import type { ChassisPoint as Point } from "../units/brands";
import {
  type Aim,
  atRide,
  type Cell,
  hull,
  line,
  projector,
  type Standing,
  type View,
  type Xy,
} from "./geometry";
import {
  CenterOfGravity, Coil, Crank, Damper, Ground, Housing, Ink, LinkTube, type RailSize, Rails, type Scene, Shaft, Shoe, Strut, Tab, Tire,
} from "./Parts"; // prettier-ignore
import { onRail, railsOf } from "./rails";

interface PictureProps {
  view: View;
  document: Document;
  standing: Standing;
  travel: number;
  aim: Aim;
  cell: Cell;
  construction?: ReactNode;
  /** Where a picture is cut close to the axle, the truck's center of gravity has no place in it. */
  close?: boolean;
}

function useScene(view: View, standing: Standing, aim: Aim, cell: Cell): Scene {
  const to = useMemo(() => projector(view, aim, cell), [view, aim, cell]);
  return useMemo(
    () => ({ view, to, place: (p: Point) => standing.place("axle", p), scale: aim.scale }),
    [view, to, standing, aim],
  );
}

/** Where the truck's center of gravity stands, ahead of this axle. */
export function centerOfGravity({ axle, vehicle }: Document): Point {
  const share = axle.end === "rear" ? vehicle.front_share : vehicle.front_share - 1;
  return [vehicle.wheelbase * share, 0, vehicle.cg_height];
}

/** The picture alone, for use inside an svg of the cell's size. */
export const Picture = memo(function Picture(props: PictureProps) {
  const { view, document, standing, aim, cell } = props;
  const scene = useScene(view, standing, aim, cell);
  const rails = railsOf(document);
  return (
    <Ink>
      {view !== "top" && <Floors {...props} scene={scene} />}
      {view !== "side" && <path className="center" d={centerline(view, scene.to, cell)} />}
      {view === "side" && <Tire scene={scene} size={sizeOf(document)} side={1} />}
      <Rails scene={scene} size={rails} />
      {view === "rear" && <Bodies {...{ scene, document, standing }} part="ahead" />}
      {view !== "side" &&
        ([1, -1] as const).map((s) => <Tire key={s} scene={scene} size={sizeOf(document)} side={s} />)}
      <KeepOuts {...{ scene, document, standing }} />
      <Tabs {...{ scene, document, standing, rails }} />
      <Housing scene={scene} size={sizeOf(document)} shaft={<OwnShaft scene={scene} document={document} />} />
      <Bodies {...{ scene, document, standing }} part={view === "rear" ? "behind" : "all"} />
      {view === "rear" && <Hidden {...{ scene, document, standing }} />}
      {view !== "top" && !props.close && <CenterOfGravity at={scene.to(centerOfGravity(document))} />}
      {props.construction}
    </Ink>
  );
});

const sizeOf = ({ axle }: Document) => ({
  track: axle.track, radius: axle.tire_radius_loaded, diameter: axle.tire_diameter, width: axle.tire_width,
  tube: axle.tube_diameter, pinion: axle.pinion.joint,
}); // prettier-ignore

const OwnShaft = ({ scene, document: { axle } }: { scene: Scene; document: Document }) => (
  <Shaft scene={scene} from={axle.pinion.joint} towards={axle.end === "rear" ? 1 : -1} />
);

/** Another design in its own pose: its links in outline. */
export const Ghost = memo(function Ghost(props: Omit<PictureProps, "travel" | "construction" | "close">) {
  const { view, document, standing, aim, cell } = props;
  const to = projector(view, aim, cell);
  return (
    <g
      data-testid="ghost"
      fill="none"
      stroke="var(--accent)"
      strokeWidth={1.3}
      strokeDasharray="6 3"
      pointerEvents="none"
    >
      {bodiesOf(document)
        .filter((body) => body.shape === "link" || body.shape === "arm")
        .map((body) => {
          const radius = (body.diameter / 2) * aim.scale;
          return (
            <path
              key={body.id}
              d={hull(to(standing.end(body.a)), radius, to(standing.end(body.b)), radius)}
            />
          );
        })}
    </g>
  );
});

/** The ground the wheels stand on: one floor, or one under each wheel when the axle is twisted. */
function Floors({ view, document, cell, travel, standing, scene }: PictureProps & { scene: Scene }) {
  const { to, place } = scene;
  const radius = document.axle.tire_radius_loaded;
  if (Math.abs(standing.pose[3]!) < 1e-4) return <Ground y={to([0, 0, travel])[1]} width={cell.width} />;
  const under = ([1, -1] as const).map((side) => {
    const wheel = place([0, (side * document.axle.track) / 2, radius]);
    return to([0, wheel[1], wheel[2] - radius]);
  });
  if (view === "side") return <Ground y={under[0]![1]} width={cell.width} />;
  const half = (document.axle.tire_width * 0.85 * scene.scale) | 0;
  return under.map(([x, y]) => <Ground key={x} y={y} from={x - half} width={x + half} />);
}

interface PlateProps {
  document: Document;
  view: View;
  aim: Aim;
  cell: Cell;
}

/** A picture at ride height, standing alone. */
export function Plate({ document, view, aim, cell }: PlateProps) {
  const standing = useMemo(() => atRide(document.axle.tire_radius_loaded), [document]);
  return (
    <svg width={cell.width} height={cell.height} aria-hidden="true">
      <Picture {...{ document, view, standing, aim, cell }} travel={0} close />
    </svg>
  );
}

function centerline(view: View, to: (p: Point) => Xy, cell: Cell): string {
  const [x, y] = to([0, 0, 0]);
  return view === "top" ? line([0, y], [cell.width, y]) : line([x, 0], [x, cell.height]);
}

interface Drawn {
  scene: Scene;
  document: Document;
  standing: Standing;
}

/** Everything of the table of parts that has a body, the far ones first and lighter. */
function Bodies({ scene, document, standing, part }: Drawn & { part: "all" | "ahead" | "behind" }) {
  const placed = bodiesOf(document).map((body) => ({
    body,
    a: standing.end(body.a),
    b: standing.end(body.b),
  }));
  const side = ({ a, b }: { a: Point; b: Point }) => (a[0] + b[0] < 0 ? "behind" : "ahead");
  const toward = { side: 1, top: 2, rear: null }[scene.view];
  const nearness = ({ a, b }: { a: Point; b: Point }) => (toward === null ? 0 : a[toward]! + b[toward]!);
  return (
    <g>
      {placed
        .filter((one) => part === "all" || side(one) === part)
        .sort((p, q) => nearness(p) - nearness(q))
        .map(({ body, a, b }) => (
          <OneBody key={body.id} {...{ scene, document, standing, body, a, b }} />
        ))}
    </g>
  );
}

/** What locates the axle sideways and stands ahead of it, seen through the housing from behind. */
function Hidden({ scene, document, standing }: Drawn) {
  const links = new Set(document.links.map((link) => link.id));
  return bodiesOf(document)
    .filter((body) => body.shape === "link" && !links.has(body.id))
    .map((body) => ({
      id: body.id,
      a: standing.end(body.a),
      b: standing.end(body.b),
      half: body.diameter / 2,
    }))
    .filter(({ a, b }) => a[0] + b[0] >= 0)
    .map(({ id, a, b, half }) => {
      const radius = half * scene.scale;
      return <path key={id} className="thin hidden" d={hull(scene.to(a), radius, scene.to(b), radius)} />;
    });
}

/** One body by its shape; the one place that knows how each is drawn. */
function OneBody(props: Drawn & { body: Body; a: Point; b: Point }) {
  const { scene, document, standing, body, a, b } = props;
  const { to, view, scale } = scene;
  const radius = (body.diameter / 2) * scale;
  const far = view === "side" && a[1] + b[1] < -1;
  const shade = far ? "far" : "";
  if (body.shape === "crank")
    return <Crank ends={[to(a), to(b)]} pin={to(standing.place(body.a.on, body.a.pivot!))} scale={scale} />;
  if (body.shape === "shoe") return <Shoe scene={scene} at={a} />;
  if (body.shape === "strut") return <Strut a={to(a)} b={to(b)} radius={radius} far={far} />;
  if (body.shape === "shock") {
    const own = document.corners?.shocks.find(({ id }) => id === body.id);
    const sort = own ? sortOf(own) : "damper";
    const ends = { a: to(a), b: to(b), radius, far };
    if (sort === "air") return <Strut {...ends} />;
    return sort === "coil" ? <Coil {...ends} /> : <Damper {...ends} coil={sort === "coilover"} />;
  }
  if (body.shape === "arm")
    return body.a.of.map((bolt, n) => (
      <LinkTube
        key={n}
        a={to(standing.place(body.a.on, bolt))}
        b={to(b)}
        radius={radius}
        eyes={n === 0 ? BOTH : FIRST}
        className={shade}
      />
    ));
  return <LinkTube a={to(a)} b={to(b)} radius={radius} className={shade} />;
}

const BOTH = [true, true] as const;
const FIRST = [true, false] as const;

/** Brackets from the joints of links and bars to what they are welded to. */
function Tabs({ scene, document, standing, rails }: Drawn & { rails: RailSize }) {
  const { to, scale } = scene;
  const { tire_radius_loaded: radius, tube_diameter: tube } = document.axle;
  const ends = new Set(
    bodiesOf(document).flatMap((b) => (b.shape === "link" || b.shape === "arm" ? [b.id] : [])),
  );
  return (
    <g>
      {spotsOf(document)
        .filter((m) => m.holds && ends.has(m.part))
        .map((mount: Spot) => {
          const onAxle = mount.on === "axle";
          const at = standing.place(mount.on, mount.at);
          const root = onAxle ? standing.place("axle", [0, mount.at[1], radius]) : onRail(mount.at, rails);
          return (
            <Tab
              key={mount.key}
              mount={to(at)}
              steel={to(root)}
              small={36 * scale}
              large={(onAxle ? tube * 0.5 : Math.min(rails.depth * 0.42, 60)) * scale}
            />
          );
        })}
    </g>
  );
}
