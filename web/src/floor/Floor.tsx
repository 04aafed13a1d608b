/** One view of the floor: the picture, what is drawn over it, and the mounts to take hold of on top. */

import { memo, type ReactNode, useMemo } from "react";
import styled from "styled-components";

import { type Document, type MountPoint, mountLabel, mountsOf, type Point } from "../design/document";
import { length, type Units } from "../units/tape";
import { type Aim, type Cell, placer, type Pose, projector, VIEW_NAMES, type View } from "./geometry";
import { Handle, type Pace, type Phase } from "./Handle";
import { Dimensions, Guides } from "./Overlay";
import { Ghost, Picture } from "./Plate";

export interface FloorProps {
  view: View;
  document: Document;
  pose: Pose;
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
  ghost: { document: Document; pose: Pose } | null;
  construction: ReactNode;
  /** Results to take hold of, over everything. */
  pulls: ReactNode;
  onSelect: (key: string, also: boolean) => void;
  onDrag: (mount: MountPoint, by: Point, pace: Pace, phase: Phase, reach: number) => void;
  onNudge: (mount: MountPoint, by: Point, pace: Pace) => void;
}

const Sheet = styled.svg`
  position: absolute;
  background: var(--sheet);
  contain: strict;
  touch-action: none;
  user-select: none;
  text {
    font:
      500 12px "IBM Plex Sans Condensed",
      sans-serif;
    fill: var(--quiet);
    stroke: none;
  }
`;

export const Floor = memo(function Floor(props: FloorProps) {
  const { view, document, pose, aim, cell, chosen, marked, ghost } = props;
  const radius = document.axle.tire_radius_loaded;
  const to = useMemo(() => projector(view, aim, cell), [view, aim, cell]);
  const place = useMemo(() => placer(pose, radius), [pose, radius]);
  const mounts = useMemo(() => mountsOf(document), [document]);
  const stands = (body: MountPoint["body"], p: Point) => (body === "axle" ? place(p) : p);
  const first = mounts.find((m) => m.key === chosen[0]);
  const dragged = mounts.find((m) => m.key === props.dragged);
  const shared = { view, document, units: props.units, to, stands };
  return (
    <Sheet width={cell.width} height={cell.height} role="group" aria-label={`${VIEW_NAMES[view]} view`}>
      <Picture
        view={view}
        document={document}
        pose={pose}
        travel={props.travel}
        aim={aim}
        cell={cell}
        construction={props.construction}
      />
      {ghost && <Ghost view={view} document={ghost.document} pose={ghost.pose} aim={aim} cell={cell} />}
      <text x={10} y={18}>
        {VIEW_NAMES[view].toUpperCase()}
      </text>
      {view !== "rear" && (
        <text x={10} y={cell.height - 10}>
          ◄ FRONT
        </text>
      )}
      {first && props.dimensions && <Dimensions {...shared} mount={first} />}
      {dragged && <Guides {...shared} mount={dragged} />}
      <g role="list" aria-label={`Mounts in the ${VIEW_NAMES[view].toLowerCase()} view`}>
        {[...mounts]
          .sort((a, b) => a.at[1] - b.at[1]) // the near one on top; an order that choosing must not change, or Tab gets lost
          .map((mount) => (
            <Handle
              key={mount.key}
              mount={mount}
              at={to(stands(mount.body, mount.at))}
              view={view}
              aim={aim}
              pose={pose}
              chosen={chosen.includes(mount.key)}
              marked={marked.some((name) => mount.name === name || mount.name.startsWith(`${name}.`))}
              locked={document.locks?.[mount.name] ?? ""}
              label={`${mountLabel(mount)}: ${where(mount, props.units)}`}
              onSelect={props.onSelect}
              onDrag={props.onDrag}
              onNudge={props.onNudge}
            />
          ))}
      </g>
      {props.pulls}
    </Sheet>
  );
});

/** Where a mount is, as a shop says it. */
export function where(mount: MountPoint, units: Units): string {
  const [x, y, z] = mount.at;
  const ahead = `${length(Math.abs(x), units)} ${x < 0 ? "behind" : "ahead of"} the axle`;
  const out = `${length(Math.abs(y), units)} ${y < 0 ? "right" : "left"} of center`;
  return `${ahead}, ${out}, ${length(z, units)} off the floor`;
}
