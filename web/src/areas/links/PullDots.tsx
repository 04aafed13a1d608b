/** Results to take hold of: the instant center in the side view, the roll center in the side and rear views. */

import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import styled from "styled-components";

import type { Point } from "../../document/document";
import { ARROWS, paceOf } from "../../floor/Handle";
import { type Aim, f, movement, type View, type Xy } from "../../floor/geometry";
import { increment, length, type Units } from "../../units/tape";
import { edged, instantCenter, rollCenter, type Scene } from "./constructions";
import { holdResult, letGo, pullOnce, pullTo, usePulling, type Wanted } from "../../state/pulling";
import { figureOf } from "../../api/register";

const Grip = styled.g`
  cursor: grab;
  outline: none;
  .touch {
    fill: transparent;
  }
  .ring {
    fill: none;
    stroke: var(--accent);
    stroke-width: 2;
  }
  &:hover .ring,
  &:focus-visible .ring {
    stroke-width: 4;
  }
`;

interface Pull {
  name: string;
  at: Point;
  /** Axes it may be pulled along. */
  axes: readonly number[];
  wanted: (to: Point) => Wanted[];
}

function pullsOf(reading: string | null, scene: Scene): Pull[] {
  const { travel, articulation } = scene.solved;
  const want = (figure: string, value: number): Wanted => ({ figure, value, travel, articulation });
  const figure = reading === null ? undefined : figureOf(reading);
  if (!figure) return [];
  if ((figure.construction === "center" || figure.construction === "neutral") && scene.view === "side") {
    const at = instantCenter(scene);
    const wanted = (p: Point) => [want("ic_x", p[0]), want("ic_height", p[2] - travel)];
    return at ? [{ name: "Instant center", at, axes: [0, 2], wanted }] : [];
  }
  const pulled = figure.pulls.some((pull) => pull.column.startsWith("roll_"));
  if (pulled && scene.view !== "top") {
    const at = rollCenter(scene);
    const wanted = (p: Point) => [want("roll_center_height", p[2] - travel)];
    return at ? [{ name: "Roll center", at, axes: [2], wanted }] : [];
  }
  return [];
}

/** So much more than was wanted before, where that still stands offered. */
export function further(stands: Wanted[], next: Wanted[]): Wanted[] {
  const before = usePulling.getState().offered?.wanted;
  return next.map((want, n) => {
    const went = before?.find((one) => one.figure === want.figure && one.travel === want.travel);
    return went ? { ...want, value: went.value + want.value - stands[n]!.value } : want;
  });
}

export function PullDots(props: { reading: string | null; scene: Scene; aim: Aim; units: Units }) {
  const { reading, scene, aim, units } = props;
  return pullsOf(reading, scene).map((pull) => <PullDot key={pull.name} {...{ pull, scene, aim, units }} />);
}

function PullDot({ pull, scene, aim, units }: { pull: Pull; scene: Scene; aim: Aim; units: Units }) {
  const start = useRef<{ x: number; y: number; pull: Pull } | null>(null);
  const [x, y]: Xy = edged(scene.to(pull.at), scene.cell);
  const moved = (from: Pull, by: Point): Point =>
    from.at.map((v, i) => (from.axes.includes(i) ? v + by[i]! : v)) as Point;
  const view: View = scene.view;
  const move = (event: PointerEvent) => {
    const from = start.current;
    if (from)
      pullTo(
        from.pull.wanted(
          moved(from.pull, movement(view, aim, event.clientX - from.x, event.clientY - from.y)),
        ),
      );
  };
  const done = (keep: boolean) => () => {
    if (!start.current) return;
    start.current = null;
    void letGo(keep);
  };
  const press = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    const unit = movement(view, { ...aim, scale: 1 }, arrow[0], arrow[1]);
    const step = increment(units, paceOf(event));
    const by = unit.map((v) => v * step) as Point;
    void pullOnce(further(pull.wanted(pull.at), pull.wanted(moved(pull, by))));
  };
  const said =
    pull.axes.length > 1
      ? `${pull.name}: ${length(pull.at[0], units)} ahead of the axle, ${length(pull.at[2] - scene.solved.travel, units)} up`
      : `${pull.name}: ${length(pull.at[2] - scene.solved.travel, units)} up`;
  return (
    <Grip
      role="button"
      tabIndex={0}
      data-pull={pull.name}
      aria-label={`${said}. Pull it, and the free mounts follow`}
      onKeyDown={press}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = { x: event.clientX, y: event.clientY, pull };
        holdResult();
      }}
      onPointerMove={move}
      onPointerUp={done(true)}
      onPointerCancel={done(false)}
    >
      <circle className="touch" cx={f(x)} cy={f(y)} r={18} />
      <circle className="ring" cx={f(x)} cy={f(y)} r={10} />
    </Grip>
  );
}
