/** One view of the floor: the picture, and the mounts to take hold of on top. */

import { memo, type ReactNode, useMemo } from "react";
import styled from "styled-components";

import { type Document, type MountPoint, mountLabel, mountsOf, type Point } from "../design/document";
import { length, type Units } from "../units/tape";
import { type Aim, type Cell, placer, type Pose, projector, VIEW_NAMES, type View } from "./geometry";
import { Handle, type Pace, type Phase } from "./Handle";
import { Picture } from "./Plate";

export interface FloorProps {
  view: View;
  document: Document;
  pose: Pose;
  travel: number;
  aim: Aim;
  cell: Cell;
  units: Units;
  selected: string | null;
  construction: ReactNode;
  onSelect: (key: string) => void;
  onDrag: (mount: MountPoint, by: Point, pace: Pace, phase: Phase) => void;
  onNudge: (mount: MountPoint, by: Point, pace: Pace) => void;
}

const Sheet = styled.svg`
  position: absolute;
  background: var(--sheet);
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
  const { view, document, pose, aim, cell, selected } = props;
  const to = useMemo(() => projector(view, aim, cell), [view, aim, cell]);
  const place = useMemo(() => placer(pose, document.axle.tire_radius_loaded), [pose, document]);
  const mounts = useMemo(() => mountsOf(document), [document]);
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
      <text x={10} y={18}>
        {VIEW_NAMES[view].toUpperCase()}
      </text>
      {view !== "rear" && (
        <text x={10} y={cell.height - 10}>
          ◄ FRONT
        </text>
      )}
      <g role="list" aria-label={`Mounts in the ${VIEW_NAMES[view].toLowerCase()} view`}>
        {[...mounts]
          .sort((a, b) => a.at[1] - b.at[1]) // the near one on top; an order that choosing must not change, or Tab gets lost
          .map((mount) => (
            <Handle
              key={mount.key}
              mount={mount}
              at={to(mount.body === "axle" ? place(mount.at) : mount.at)}
              view={view}
              aim={aim}
              pose={pose}
              chosen={mount.key === selected}
              label={`${mountLabel(mount)}: ${where(mount, props.units)}`}
              onSelect={props.onSelect}
              onDrag={props.onDrag}
              onNudge={props.onNudge}
            />
          ))}
      </g>
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
