/** Where the three views look, and how near: fitted to the design until somebody moves it, with one zoom in all. */

import {
  type PointerEvent,
  type RefObject,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type WheelEvent,
} from "react";
import { flushSync } from "react-dom";

import { onPaperAndBack } from "../ui/printing";
import { type Document, type Point, spotsOf } from "../document/document";
import { type Aim, type Cell, type Extent, fitted, movement, type Pane, type View } from "./geometry";
import { centerOfGravity } from "./Plate";
import { railsOf } from "./rails";

export const GAP = 10;
const LEAST_CELL = 320;
const [FARTHEST, NEAREST] = [0.03, 5];
const WHEEL = 0.0015;
/** All that the drawing must hold: tires, mounts, rails, the center of gravity, what is drawn `far` out, a little air. */
export function extentOf(document: Document, far: readonly Point[] = []): Extent {
  const { axle, vehicle, travel } = document;
  const r = axle.tire_diameter / 2;
  const half = axle.track / 2 + axle.tire_width / 2 + 40;
  const rails = railsOf(document);
  const cg = centerOfGravity(document)[0];
  const twist = (axle.track / 2) * Math.sin((travel.articulation * Math.PI) / 180);
  const points = [...spotsOf(document).map((m) => m.at), ...far];
  const along = (i: 0 | 1 | 2, air: number) => points.flatMap((p) => [p[i] - air, p[i] + air]);
  const xs = [-r - 40, r + 40, rails.from - 70, rails.until + 70, cg - 110, cg + 110, ...along(0, 60)];
  const ys = [-half, half, ...along(1, 40)];
  const zs = [axle.tire_radius_loaded + r + travel.bump + twist / 2, vehicle.cg_height + 60, ...along(2, 60)];
  return {
    top: Math.max(half, ...points.map((p) => Math.abs(p[1]) + 40)),
    low: [Math.min(...xs), Math.min(...ys), Math.min(-travel.droop * 0.5 - 60, ...along(2, 60))],
    high: [Math.max(...xs), Math.max(...ys), Math.max(...zs)],
  };
}

/** The size of an element as it is laid out; null before it is. */
export function useSize(area: RefObject<HTMLElement | null>): Cell | null {
  const [size, setSize] = useState<Cell | null>(null);
  useEffect(() => {
    const fit = ({ width, height }: Cell) =>
      setSize({ width: Math.max(width, LEAST_CELL), height: Math.max(height, LEAST_CELL) });
    const seen = new ResizeObserver(([entry]) => fit(entry!.contentRect));
    seen.observe(area.current!);
    // a sheet of paper is not waited with until something has been observed
    const turned = onPaperAndBack((paper) => {
      const { clientWidth: width, clientHeight: height } = area.current!;
      flushSync(() => fit({ width, height: paper ? Math.min(height, width) : height }));
    });
    return () => {
      seen.disconnect();
      turned();
    };
  }, [area]);
  return size;
}

/** A value as it is now, for callbacks that must stay the same. */
function useNow<T>(value: T): RefObject<T> {
  const now = useRef(value);
  useEffect(() => {
    now.current = value;
  });
  return now;
}

/** `fitsFar`: what is drawn far out is fitted in from the start, not only when all is asked for. */
export function useAim(
  designId: number,
  document: Document,
  size: Cell | null,
  far: readonly Point[],
  fitsFar: boolean,
  pane: Pane | null,
) {
  const [own, setOwn] = useState<{ id: number; aim: Aim } | null>(null);
  // the extent as it was when this design came up, or when all was asked for: a drag must not move the paper under the hand
  const first = () => ({ id: designId, extent: extentOf(document, fitsFar ? far : []) });
  const [kept, setKept] = useState(first);
  if (kept.id !== designId) setKept(first());
  const { extent } = kept;
  const all = extentOf(document, far);
  const wanted = useNow(all);
  const [wide, tall] = [pane?.width, pane?.height];
  const fit = useMemo(
    () =>
      size &&
      fitted(extent, size.width, size.height, GAP, wide && tall ? { width: wide, height: tall } : null),
    [extent, size, wide, tall],
  );
  const mine = own?.id === designId;
  const aim = mine ? own.aim : fit?.aim;
  const now = useNow(aim);
  const look = useCallback((next: Aim) => setOwn({ id: designId, aim: next }), [designId]);
  const zoom = useCallback(
    (by: number) => {
      const from = now.current;
      if (from) look({ ...from, scale: Math.min(Math.max(from.scale * by, FARTHEST), NEAREST) });
    },
    [look, now],
  );
  const fitAll = useCallback(() => {
    setOwn(null);
    setKept({ id: designId, extent: wanted.current });
  }, [designId, wanted]);
  const fits = !mine && JSON.stringify(extent) === JSON.stringify(all);
  return { aim, cells: fit?.cells, look, zoom, fitAll, fits };
}

/** The aim that brings the bars of these mounts close up; null where there are none. */
export function closeUp(document: Document, chosen: readonly string[], cell: Cell): Aim | null {
  const parts = spotsOf(document).flatMap((m) => (chosen.includes(m.key) ? [m.part] : []));
  const points = spotsOf(document).flatMap((m) => (parts.includes(m.part) ? [m.at] : []));
  if (points.length === 0) return null;
  const across = (i: 0 | 1 | 2): [number, number] => {
    const values = points.map((p) => p[i]);
    return [Math.min(...values), Math.max(...values)];
  };
  const ends = [across(0), across(1), across(2)];
  const long = (i: number, least: number) => Math.max(ends[i]![1] - ends[i]![0], least);
  const scale = Math.min((cell.width * 0.6) / long(0, 300), (cell.height * 0.6) / long(2, 250), NEAREST);
  return { middle: ends.map(([a, b]) => (a + b) / 2) as Point, scale };
}

/** Pointer handlers of a view: one finger or button moves the paper, two fingers or a wheel zoom. */
export function usePanning(aim: Aim | undefined, look: (aim: Aim) => void, zoom: (by: number) => void) {
  const pan = useRef<{ x: number; y: number; aim: Aim } | null>(null);
  const fingers = useRef(new Map<number, { x: number; y: number }>());
  const lift = (event: PointerEvent) => {
    fingers.current.delete(event.pointerId);
    pan.current = null;
  };
  const pinch = (event: PointerEvent): boolean => {
    const held = fingers.current;
    const own = held.get(event.pointerId);
    if (!own || held.size !== 2) return false;
    const other = [...held].find(([id]) => id !== event.pointerId)![1];
    const apart = (p: { x: number; y: number }) => Math.hypot(p.x - other.x, p.y - other.y);
    const now = { x: event.clientX, y: event.clientY };
    if (apart(own) > 1) zoom(apart(now) / apart(own));
    held.set(event.pointerId, now);
    return true;
  };
  return (view: View) => ({
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      const onMount = (event.target as Element).closest("[data-mount], [data-pull]");
      if (!aim || event.button !== 0 || onMount) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
      pan.current = { x: event.clientX, y: event.clientY, aim };
    },
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      if (pinch(event)) return;
      const from = pan.current;
      if (!from) return;
      const by = movement(view, from.aim, from.x - event.clientX, from.y - event.clientY);
      look({ ...from.aim, middle: from.aim.middle.map((v, i) => v + by[i]!) as Point });
    },
    onPointerUp: lift,
    onPointerCancel: lift,
    onWheel: (event: WheelEvent) => zoom(Math.exp(-event.deltaY * WHEEL)),
  });
}
