/** One view of the floor: the picture, what is drawn over it, and the mounts to take hold of on top. */

import { Fragment, memo, useMemo, useRef, useState } from "react";
import styled from "styled-components";

import { bodiesOf, type Document, mountLabel, type Point, type Spot, spotsOf } from "../document/document";
import { length, type Units } from "../units/tape";
import { type Aim, type Cell, f, projector, type Standing, VIEW_NAMES, type View, type Xy } from "./geometry";
import type { Layer } from "./Drawing";
import { Handle, type Pace, type Phase } from "./Handle";
import { Dimensions, Guides } from "./Overlay";
import { Ghost, Picture } from "./Plate";

export interface FloorProps {
  view: View;
  document: Document;
  standing: Standing;
  travel: number;
  aim: Aim;
  cell: Cell;
  units: Units;
  /** Keys of the chosen mounts, the first of them the one that is measured. */
  chosen: readonly string[];
  /** The mount under the hand. */
  dragged: string | null;
  /** Names of mounts and bars that a finding is about. */
  marked: readonly string[];
  dimensions: boolean;
  ghost: { document: Document; standing: Standing } | null;
  /** What areas draw on the views. */
  layers: readonly Layer[];
  onSelect: (key: string, also: boolean) => void;
  onDrag: (mount: Spot, by: Point, pace: Pace, phase: Phase, reach: number) => void;
  onNudge: (mount: Spot, by: Point, pace: Pace) => void;
  /** Nothing is to be chosen any more. */
  onLeave: () => void;
}

const Sheet = styled.svg`
  position: absolute;
  background: var(--sheet);
  contain: strict;
  touch-action: none;
  user-select: none;
  .marked-end {
    fill: none;
    stroke: var(--stop);
    stroke-width: 2.5;
    stroke-dasharray: 5 3;
  }
  text {
    font:
      500 0.75rem "IBM Plex Sans Condensed",
      sans-serif;
    fill: var(--quiet);
    stroke: none;
  }
`;

export const Floor = memo(function Floor(props: FloorProps) {
  const { view, document, standing, aim, cell, chosen, marked, ghost } = props;
  const to = useMemo(() => projector(view, aim, cell), [view, aim, cell]);
  const mounts = useMemo(() => spotsOf(document), [document]);
  const first = mounts.find((m) => m.key === chosen[0]);
  const dragged = mounts.find((m) => m.key === props.dragged);
  const shared = { view, document, units: props.units, to, standing };
  return (
    <Sheet width={cell.width} height={cell.height} role="group" aria-label={`${VIEW_NAMES[view]} view`}>
      <Picture
        view={view}
        document={document}
        standing={standing}
        travel={props.travel}
        aim={aim}
        cell={cell}
        construction={props.layers.map((layer, n) => (
          <Fragment key={n}>{layer.lines(view, aim, cell)}</Fragment>
        ))}
      />
      {ghost && (
        <Ghost view={view} document={ghost.document} standing={ghost.standing} aim={aim} cell={cell} />
      )}
      <MarkedEnds document={document} marked={marked} to={to} standing={standing} />
      {first && props.dimensions && <Dimensions {...shared} mount={first} />}
      {dragged && <Guides {...shared} mount={dragged} />}
      <Mounts {...props} mounts={mounts} to={to} />
      {props.layers.map((layer, n) => (
        <Fragment key={n}>{layer.grips(view, aim, cell)}</Fragment>
      ))}
    </Sheet>
  );
});

/** The mounts to take hold of: one stop for Tab, walked by arrows, taken hold of by a key or the hand. */
function Mounts(props: FloorProps & { mounts: Spot[]; to: (p: Point) => Xy }) {
  const { view, document, standing, aim, chosen, marked, mounts, to, onSelect } = props;
  const list = useRef<SVGGElement>(null);
  const [held, setHeld] = useState<string | null>(null);
  const stop = mounts.find((m) => m.key === chosen[0])?.key ?? mounts[0]?.key;
  const walk = (from: Spot, way: Xy) => {
    const places = mounts.map((m) => ({ key: m.key, at: to(standing.place(m.on, m.at)) }));
    const next = nextAlong(places, from.key, way);
    list.current?.querySelector<SVGGElement>(`[data-mount="${CSS.escape(next)}"]`)?.focus();
    onSelect(next, false);
  };
  return (
    <g
      ref={list}
      role="list"
      aria-label={`Mounts in the ${VIEW_NAMES[view].toLowerCase()} view`}
      onBlur={() => setHeld(null)}
    >
      {[...mounts]
        .sort((a, b) => a.at[1] - b.at[1]) // the near one on top; an order that choosing must not change, or Tab gets lost
        .map((mount) => (
          <Handle
            key={mount.key}
            mount={mount}
            at={to(standing.place(mount.on, mount.at))}
            view={view}
            aim={aim}
            standing={standing}
            chosen={chosen.includes(mount.key)}
            marked={isMarked(mount, marked)}
            locked={document.locks?.[mount.name] ?? ""}
            label={`${mountLabel(mount)}: ${where(mount, props.units)}`}
            onSelect={onSelect}
            onDrag={props.onDrag}
            onNudge={props.onNudge}
            held={held === mount.key && chosen.includes(mount.key)}
            stop={stop === mount.key}
            onHold={setHeld}
            onWalk={walk}
            onLeave={props.onLeave}
          />
        ))}
    </g>
  );
}

/** The nearest mount that way on the paper, straight ahead counting more than aside; the same one where there is none. */
export function nextAlong(places: { key: string; at: Xy }[], from: string, [wx, wy]: Xy): string {
  const own = places.find((place) => place.key === from)!.at;
  const reach = (at: Xy) => {
    const [x, y] = [at[0] - own[0], at[1] - own[1]];
    const [ahead, aside] = [x * wx + y * wy, Math.abs(x * wy) + Math.abs(y * wx)];
    return ahead > 0.5 && ahead > aside / 2 ? ahead + 2 * aside : Infinity;
  };
  const ahead = places.filter((place) => Number.isFinite(reach(place.at)));
  ahead.sort((a, b) => reach(a.at) - reach(b.at));
  return ahead[0]?.key ?? from;
}

/** Joints that a finding names and nobody can take hold of: a bell crank's ends. */
const MarkedEnds = memo(function MarkedEnds(props: {
  document: Document;
  marked: readonly string[];
  to: (p: Point) => Xy;
  standing: Standing;
}) {
  const ends = bodiesOf(props.document)
    .flatMap((body) => (body.shape === "crank" ? [] : [body.a, body.b]))
    .filter((end) => end.pivot !== null && props.marked.includes(end.name));
  return ends.map((end) => {
    const [x, y] = props.to(props.standing.end(end));
    return <circle key={end.name} className="marked-end" cx={f(x)} cy={f(y)} r={15} />;
  });
});

/** Whether a finding names this joint, or the whole part that it is an end of. */
export const isMarked = ({ name, part }: Spot, marked: readonly string[]): boolean =>
  marked.some((one) => one === name || one === part || name.startsWith(`${one}.`));

/** Where a mount is, as a shop says it. */
export function where(mount: Spot, units: Units): string {
  const [x, y, z] = mount.at;
  const ahead = `${length(Math.abs(x), units)} ${x < 0 ? "behind" : "ahead of"} the axle`;
  const out = `${length(Math.abs(y), units)} ${y < 0 ? "right" : "left"} of center`;
  return `${ahead}, ${out}, ${length(z, units)} off the floor`;
}
