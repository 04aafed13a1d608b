/** One view of a design in a pose, as a picture: everything in projection, nothing to take hold of. */

import { memo, type ReactNode, useMemo } from "react";

import { type Document, type MountPoint, mountsOf, type Point } from "../design/document";
import {
  type Aim,
  type Cell,
  line,
  placer,
  type Pose,
  projector,
  ridePose,
  type View,
  type Xy,
  hull,
} from "./geometry";
import {
  CenterOfGravity, Ground, Housing, Ink, LinkTube, type RailSize, Rails, type Scene, Shaft, Tab, Tire,
} from "./Parts"; // prettier-ignore

const LINK_RADIUS = 25;

interface PictureProps {
  view: View;
  document: Document;
  pose: Pose;
  travel: number;
  aim: Aim;
  cell: Cell;
  construction?: ReactNode;
  /** Where a picture is cut close to the axle, the truck's center of gravity has no place in it. */
  close?: boolean;
}

/** The picture alone, for use inside an svg of the cell's size. */
export const Picture = memo(function Picture(props: PictureProps) {
  const { view, document, pose, aim, cell } = props;
  const { axle, vehicle } = document;
  const radius = axle.tire_radius_loaded;
  const to = useMemo(() => projector(view, aim, cell), [view, aim, cell]);
  const place = useMemo(() => placer(pose, radius), [pose, radius]);
  const scene: Scene = { view, to, place, scale: aim.scale };
  const mounts = useMemo(() => mountsOf(document), [document]);
  const size = {
    track: axle.track, radius, diameter: axle.tire_diameter, width: axle.tire_width,
    tube: axle.tube_diameter, pinion: axle.pinion.joint,
  }; // prettier-ignore
  const rails = railsOf(document);
  const cg: Point = [
    axle.end === "rear"
      ? vehicle.wheelbase * vehicle.front_share
      : -vehicle.wheelbase * (1 - vehicle.front_share),
    0,
    vehicle.cg_height,
  ];
  const shaft = <Shaft scene={scene} from={size.pinion} towards={axle.end === "rear" ? 1 : -1} />;
  return (
    <Ink>
      {view !== "top" && <Floors {...props} scene={scene} />}
      {view !== "side" && <path className="center" d={centerline(view, to, cell)} />}
      {view === "side" && <Tire scene={scene} size={size} side={1} />}
      <Rails scene={scene} size={rails} />
      {view === "rear" && <Bars scene={scene} document={document} turned={pose[6] ?? 0} part="ahead" />}
      {view !== "side" && ([1, -1] as const).map((s) => <Tire key={s} scene={scene} size={size} side={s} />)}
      <Tabs scene={scene} mounts={mounts} document={document} rails={rails} />
      <Housing scene={scene} size={size} shaft={shaft} />
      <Bars
        scene={scene}
        document={document}
        turned={pose[6] ?? 0}
        part={view === "rear" ? "behind" : "all"}
      />
      <Locator scene={scene} document={document} turned={pose[6] ?? 0} />
      {view !== "top" && !props.close && <CenterOfGravity at={to(cg)} />}
      {props.construction}
    </Ink>
  );
});

/** Another design in its own pose: its links in outline, and their joints. */
export const Ghost = memo(function Ghost(props: Omit<PictureProps, "travel" | "construction" | "close">) {
  const { view, document, pose, aim, cell } = props;
  const radius = document.axle.tire_radius_loaded;
  const to = projector(view, aim, cell);
  const bars = barsOf(document, placer(pose, radius), pose[6] ?? 0);
  const width = LINK_RADIUS * aim.scale;
  return (
    <g
      data-testid="ghost"
      fill="none"
      stroke="var(--accent)"
      strokeWidth={1.3}
      strokeDasharray="6 3"
      pointerEvents="none"
    >
      {bars.map((bar) => (
        <path key={bar.id} d={hull(to(bar.a), width * 1.1, to(bar.b), width * 1.1)} />
      ))}
    </g>
  );
});

/** The ground the wheels stand on: one floor, or one under each wheel when the axle is twisted. */
function Floors({ view, document, cell, travel, pose, scene }: PictureProps & { scene: Scene }) {
  const { to, place } = scene;
  const radius = document.axle.tire_radius_loaded;
  if (Math.abs(pose[3]!) < 1e-4) return <Ground y={to([0, 0, travel])[1]} width={cell.width} />;
  const under = ([1, -1] as const).map((side) => {
    const wheel = place([0, (side * document.axle.track) / 2, radius]);
    return to([0, wheel[1], wheel[2] - radius]);
  });
  if (view === "side") return <Ground y={under[0]![1]} width={cell.width} />;
  const half = (document.axle.tire_width * 0.85 * scene.scale) | 0;
  return under.map(([x, y]) => <Ground key={x} y={y} from={x - half} width={x + half} />);
}

/** A picture at ride height, standing alone. */
export function Plate({
  document,
  view,
  aim,
  cell,
}: {
  document: Document;
  view: View;
  aim: Aim;
  cell: Cell;
}) {
  const pose = useMemo(() => ridePose(document.axle.tire_radius_loaded), [document]);
  return (
    <svg width={cell.width} height={cell.height} aria-hidden="true">
      <Picture document={document} view={view} pose={pose} travel={0} aim={aim} cell={cell} close />
    </svg>
  );
}

function centerline(view: View, to: (p: Point) => Xy, cell: Cell): string {
  const [x, y] = to([0, 0, 0]);
  return view === "top" ? line([0, y], [cell.width, y]) : line([x, 0], [x, cell.height]);
}

/** The file's rails; without any, rails where this design's frame mounts would need them. */
export function railsOf(document: Document): RailSize {
  const frame = mountsOf(document).filter((m) => m.body === "frame");
  const xs = frame.map((m) => m.at[0]);
  const reach = document.axle.tire_diameter * 0.55;
  const [from, until] = [Math.min(-reach, ...xs) - 130, Math.max(reach, ...xs) + 130];
  const own = document.rails;
  if (own) {
    return {
      outside: own.outside_width,
      depth: own.depth,
      flange: own.flange,
      underside: own.underside,
      from,
      until,
    };
  }
  const high = document.axle.tire_radius_loaded + document.travel.bump + document.axle.tube_diameter;
  return { outside: 860, depth: 140, flange: 60, underside: Math.min(high, 650), from, until };
}

/** The bell crank of a Watts link as it stands now, and where its two rods' other ends are. */
function crankOf(document: Document, place: (p: Point) => Point, turned: number) {
  const watts = document.lateral;
  if (watts?.kind !== "watts") return null;
  const onAxle = watts.pivot.on === "axle";
  const [x, y, z] = watts.pivot.at;
  const angle = (watts.tilt * Math.PI) / 180 + turned;
  const [dy, dz] = [-watts.arm * Math.sin(angle), watts.arm * Math.cos(angle)];
  const stands = (point: Point) => (onAxle ? place(point) : point);
  const other = (point: Point) => (onAxle ? point : place(point));
  return {
    pivot: stands([x, y, z]),
    ends: [stands([x, y + dy, z + dz]), stands([x, y - dy, z - dz])],
    rods: [other(watts.left.at), other(watts.right.at)],
  };
}

/** The bell crank and its pin; or a slider's shoe in its upright guide. */
function Locator({ scene, document, turned }: { scene: Scene; document: Document; turned: number }) {
  const { to, place, scale, view } = scene;
  const crank = crankOf(document, place, turned);
  if (crank) {
    const [a, b] = crank.ends.map(to) as [Xy, Xy];
    return (
      <g>
        <path className="deep medium" d={hull(a, 26 * scale, b, 26 * scale)} />
        <circle className="sheet medium" cx={to(crank.pivot)[0]} cy={to(crank.pivot)[1]} r={16 * scale} />
      </g>
    );
  }
  if (document.lateral?.kind !== "slider") return null;
  const at = place(document.lateral.axle.at);
  const rail = (side: number): Xy[] => {
    const reach = view === "top" ? [1, 0] : [0, 1];
    return [-150, 150].map((s) => to([at[0] + s * reach[0]!, at[1] + side * 34, at[2] + s * reach[1]!]));
  };
  return (
    <g>
      {view !== "side" &&
        [-1, 1].map((side) => <path key={side} className="heavy" d={line(...rail(side))} />)}
      <circle className="deep medium" cx={to(at)[0]} cy={to(at)[1]} r={30 * scale} />
    </g>
  );
}

/** All links and bars, the far ones first and lighter. */
function Bars(props: { scene: Scene; document: Document; turned: number; part: "all" | "ahead" | "behind" }) {
  const { scene, document, turned, part } = props;
  const { to, place, view, scale } = scene;
  const bars = barsOf(document, place, turned).filter(
    (bar) => part === "all" || (bar.a[0] + bar.b[0] < 0 ? "behind" : "ahead") === part,
  );
  const nearness = (b: { a: Point; b: Point }) =>
    view === "side" ? b.a[1] + b.b[1] : view === "top" ? b.a[2] + b.b[2] : 0;
  return (
    <g>
      {bars
        .sort((p, q) => nearness(p) - nearness(q))
        .map((bar) => (
          <LinkTube
            key={bar.id}
            a={to(bar.a)}
            b={to(bar.b)}
            radius={LINK_RADIUS * scale * bar.girth}
            eyes={bar.eyes}
            className={view === "side" && bar.a[1] + bar.b[1] < -1 ? "far" : ""}
          />
        ))}
    </g>
  );
}

interface Bar {
  id: string;
  a: Point;
  b: Point;
  girth: number;
  eyes: readonly [boolean, boolean];
}

/** What is drawn as a tube: where its two ends stand now. */
export function barsOf(document: Document, place: (p: Point) => Point, turned = 0): Bar[] {
  const bars = document.links.flatMap((link): Bar[] =>
    link.kind === "radius_arm"
      ? link.axle.at.map((bolt, n) => ({
          id: `${link.id}.${n}`, a: place(bolt), b: link.frame.at, girth: 0.9, eyes: [true, n === 0] as const,
        })) // prettier-ignore
      : [
          {
            id: link.id,
            a: place(link.axle.at),
            b: link.frame.at,
            girth: link.kind === "lower" ? 1.1 : 1,
            eyes: [true, true],
          },
        ],
  );
  if (document.lateral?.kind === "panhard") {
    const { axle, frame } = document.lateral;
    bars.push({ id: "panhard", a: place(axle.at), b: frame.at, girth: 0.8, eyes: [true, true] });
  }
  const crank = crankOf(document, place, turned);
  crank?.ends.forEach((end, n) => {
    bars.push({ id: `rod-${n}`, a: end, b: crank.rods[n]!, girth: 0.7, eyes: [true, true] });
  });
  return bars;
}

function Tabs(props: { scene: Scene; mounts: MountPoint[]; document: Document; rails: RailSize }) {
  const { scene, mounts, document, rails } = props;
  const { to, place, scale } = scene;
  const { tire_radius_loaded: radius, tube_diameter: tube } = document.axle;
  return (
    <g>
      {mounts
        .filter((m) => m.path[0] === "links" || document.lateral?.kind === "panhard")
        .map((mount) => {
          const at = mount.body === "axle" ? place(mount.at) : mount.at;
          const onAxle = mount.body === "axle";
          const root: Point = onAxle ? place([0, mount.at[1], radius]) : onRail(mount.at, rails);
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

/** The nearest place on a rail to weld a bracket to. */
function onRail([x, y, z]: Point, rails: RailSize): Point {
  const side = y < 0 ? -1 : 1;
  const middle = rails.underside + rails.depth / 2;
  const height = Math.min(
    Math.max(z, rails.underside + rails.depth * 0.42),
    rails.underside + rails.depth * 0.58,
  );
  return [x, side * (rails.outside / 2 - rails.flange / 2), Number.isFinite(height) ? height : middle];
}
