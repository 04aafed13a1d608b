/** A mount to take hold of: pointer, touch and arrow keys move it the same way. */

import { type FocusEvent, type KeyboardEvent, memo, type PointerEvent, useRef } from "react";
import styled from "styled-components";

import type { Point, Spot } from "../document/document";
import { type Aim, f, movement, type Standing, type View, type Xy } from "./geometry";

export type Pace = "fine" | "shop" | "coarse";
export type Phase = "start" | "move" | "end" | "cancel";

interface HandleProps {
  mount: Spot;
  at: Xy;
  view: View;
  aim: Aim;
  standing: Standing;
  chosen: boolean;
  marked: boolean;
  /** Axes along which it must stay. */
  locked: string;
  label: string;
  /** Taken hold of by a key: arrows move it; not held, they walk to the next mount. */
  held: boolean;
  /** The view's one stop for Tab. */
  stop: boolean;
  onSelect: (key: string, also: boolean) => void;
  onDrag: (mount: Spot, by: Point, pace: Pace, phase: Phase, reach: number) => void;
  onNudge: (mount: Spot, by: Point, pace: Pace) => void;
  onHold: (key: string | null) => void;
  onWalk: (from: Spot, way: Xy) => void;
  onLeave: () => void;
}

const Grip = styled.g`
  cursor: grab;
  outline: none;
  .ring {
    fill: none;
    stroke: transparent;
    stroke-width: 2;
  }
  .touch {
    fill: transparent;
  }
  .marked {
    fill: none;
    stroke: var(--stop);
    stroke-width: 2.5;
    stroke-dasharray: 5 3;
  }
  .lock {
    fill: var(--sheet);
    stroke: var(--ink);
    stroke-width: 1.2;
  }
  &:hover .ring {
    stroke: var(--accent);
  }
  &[data-chosen="true"] .ring {
    stroke: var(--accent);
    stroke-width: 2.5;
  }
  &[data-chosen="true"] .cross {
    stroke: var(--accent);
    stroke-width: 1.2;
  }
  &:focus-visible .ring {
    stroke: var(--accent);
    stroke-width: 4;
  }
`;

/** How near, px, a dragged mount comes to another's height or station before it takes it over. */
const CATCH_PX = 5;

export const paceOf = (event: { shiftKey: boolean; altKey: boolean }): Pace =>
  event.shiftKey ? "fine" : event.altKey ? "coarse" : "shop";

export const ARROWS: Record<string, Xy> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Escape while the hand is on something; to be told when that begins and ends. */
export function useCancelling(cancel: () => void): (on: boolean) => void {
  const hears = useRef<((event: globalThis.KeyboardEvent) => void) | null>(null);
  return (on) => {
    if (hears.current) removeEventListener("keydown", hears.current, true);
    hears.current = null;
    if (!on) return;
    hears.current = (event) => {
      if (event.key !== "Escape") return;
      event.stopPropagation();
      if (hears.current) removeEventListener("keydown", hears.current, true);
      cancel();
    };
    addEventListener("keydown", hears.current, true);
  };
}

/** Enter takes hold and lets go, arrows move what is held and else walk on, Escape lets go, then unchooses. */
function press(event: KeyboardEvent, props: HandleProps) {
  const { mount, view, aim, chosen, held } = props;
  const arrow = ARROWS[event.key];
  if (event.key === " " || event.key === "Enter") {
    const also = event.ctrlKey || event.metaKey;
    if (also || !chosen) props.onSelect(mount.key, also);
    if (!also) props.onHold(held ? null : mount.key);
  } else if (event.key === "Escape") {
    if (held) props.onHold(null);
    else props.onLeave();
  } else if (arrow && held)
    props.onNudge(mount, movement(view, { ...aim, scale: 1 }, arrow[0], arrow[1]), paceOf(event));
  else if (arrow) props.onWalk(mount, arrow);
  else return;
  event.preventDefault();
}

/** Pointer, touch and arrow keys, as one path: what the grip's element is given. */
function useGrip(props: HandleProps) {
  const { mount, view, aim, standing, chosen } = props;
  const start = useRef<{ x: number; y: number; mount: Spot; standing: Standing } | null>(null);

  const by = (event: PointerEvent): Point => {
    const from = start.current!;
    const chassis = movement(view, aim, event.clientX - from.x, event.clientY - from.y);
    return from.standing.back(mount.on, chassis);
  };
  const report = (event: PointerEvent, phase: Exclude<Phase, "start">) => {
    if (!start.current) return;
    props.onDrag(start.current.mount, by(event), paceOf(event), phase, CATCH_PX / aim.scale);
    if (phase === "move") return;
    start.current = null;
    listen(false);
  };
  const listen = useCancelling(() => {
    const from = start.current;
    start.current = null;
    if (from) props.onDrag(from.mount, [0, 0, 0], "shop", "cancel", 0);
  });
  return {
    onFocus: (event: FocusEvent<SVGGElement>) => {
      if (!chosen && event.target.matches(":focus-visible")) props.onSelect(mount.key, false);
    },
    onKeyDown: (event: KeyboardEvent) => press(event, props),
    onPointerDown: (event: PointerEvent<SVGGElement>) => {
      if (event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      start.current = { x: event.clientX, y: event.clientY, mount, standing };
      const also = event.ctrlKey || event.metaKey;
      if (also || !chosen) props.onSelect(mount.key, also);
      props.onHold(mount.key);
      listen(true);
      props.onDrag(mount, [0, 0, 0], paceOf(event), "start", 0);
    },
    onPointerMove: (event: PointerEvent) => report(event, "move"),
    onPointerUp: (event: PointerEvent) => report(event, "end"),
    onPointerCancel: (event: PointerEvent) => report(event, "cancel"),
  };
}

const lockedWords = (locked: string) =>
  locked && `, locked ${locked.length === 3 ? "in place" : `along ${locked.split("").join(" and ")}`}`;

export const Handle = memo(function Handle(props: HandleProps) {
  const { mount, at, chosen, marked, locked } = props;
  const grip = useGrip(props);
  const [x, y] = at;
  const r = chosen ? 11 : 9;
  return (
    <g role="listitem">
      <Grip
        role="button"
        tabIndex={props.stop ? 0 : -1}
        aria-label={props.label + lockedWords(locked) + (props.held ? ", held: arrows move it" : "")}
        aria-pressed={chosen}
        data-mount={mount.key}
        data-chosen={chosen}
        {...grip}
      >
        <circle className="touch" cx={f(x)} cy={f(y)} r={16} />
        {marked && <circle className="marked" cx={f(x)} cy={f(y)} r={15} />}
        {locked && (
          <path
            className="lock"
            d={`M${f(x - 5)} ${f(y + 10)}h10v8h-10zM${f(x - 3)} ${f(y + 10)}v-3a3 3 0 0 1 6 0v3`}
          />
        )}
        <circle className="ring" cx={f(x)} cy={f(y)} r={r} />
        {chosen && (
          <path
            className="cross"
            d={`M${f(x - 17)} ${f(y)}h6M${f(x + 11)} ${f(y)}h6M${f(x)} ${f(y - 17)}v6M${f(x)} ${f(y + 11)}v6`}
          />
        )}
      </Grip>
    </g>
  );
});
