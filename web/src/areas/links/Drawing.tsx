/** The three views side by side: one zoom, one middle, one pose in all. */

import {
  memo,
  type PointerEvent,
  type ReactNode,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import styled from "styled-components";

import { type Document, mountsOf, type Point } from "../../design/document";
import { Floor, type FloorProps } from "../../floor/Floor";
import { railsOf } from "../../floor/Plate";
import { type Aim, type Cell, type Extent, fitted, movement, type View } from "../../floor/geometry";
import { Button } from "../../ui/controls";

const GAP = 10;
const VIEWS: View[] = ["side", "top", "rear"];

const Area = styled.div`
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  contain: strict;
  .corner {
    position: absolute;
    overflow: auto;
    contain: strict;
  }
  .zoom {
    position: absolute;
    display: flex;
    gap: 4px;
  }
`;

const Zoom = styled(Button)`
  min-width: 36px;
  padding: 2px 8px;
`;

/** All that the drawing must hold: tires, mounts, rails, the center of gravity, a little air. */
function extentOf(document: Document): Extent {
  const { axle, vehicle } = document;
  const r = axle.tire_diameter / 2;
  const half = axle.track / 2 + axle.tire_width / 2 + 40;
  const rails = railsOf(document);
  const cg =
    axle.end === "rear"
      ? vehicle.wheelbase * vehicle.front_share
      : -vehicle.wheelbase * (1 - vehicle.front_share);
  const twist = (axle.track / 2) * Math.sin((document.travel.articulation * Math.PI) / 180);
  const xs = [-r - 40, r + 40, rails.from - 70, rails.until + 70, cg - 110, cg + 110];
  const zs = [
    axle.tire_radius_loaded + r + document.travel.bump + twist / 2,
    vehicle.cg_height + 60,
    ...mountsOf(document).map((m) => m.at[2] + 60),
  ];
  return {
    low: [Math.min(...xs), -half, -document.travel.droop * 0.5 - 60],
    high: [Math.max(...xs), half, Math.max(...zs)],
  };
}

type Shared = Omit<FloorProps, "view" | "aim" | "cell" | "construction" | "pulls">;

export function Drawing(
  props: Shared & {
    designId: number;
    construct: (view: View, aim: Aim, cell: Cell) => ReactNode;
    pull: (view: View, aim: Aim, cell: Cell) => ReactNode;
    tools: ReactNode;
    corner: ReactNode;
    notice: ReactNode;
  },
) {
  const area = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<Cell | null>(null);
  const [own, setOwn] = useState<{ id: number; aim: Aim } | null>(null);
  const extent = useStable(extentOf(props.document), props.designId);
  const fit = useMemo(() => (size ? fitted(extent, size.width, size.height, GAP) : null), [extent, size]);
  const pan = useRef<{ x: number; y: number; aim: Aim } | null>(null);
  const fingers = useRef(new Map<number, { x: number; y: number }>());

  useEffect(() => {
    const seen = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width: Math.max(width, 320), height: Math.max(height, 320) });
    });
    seen.observe(area.current!);
    return () => seen.disconnect();
  }, []);

  const aim = own?.id === props.designId ? own.aim : fit?.aim;
  const look = (next: Aim) => setOwn({ id: props.designId, aim: next });
  const latest = useRef(aim);
  useEffect(() => {
    latest.current = aim;
  });
  const { designId } = props;
  const zoom = useCallback(
    (by: number) => {
      const from = latest.current;
      if (from)
        setOwn({ id: designId, aim: { ...from, scale: Math.min(Math.max(from.scale * by, 0.03), 5) } });
    },
    [designId],
  );
  const fitAll = useCallback(() => setOwn(null), []);

  const lift = (event: PointerEvent) => {
    fingers.current.delete(event.pointerId);
    pan.current = null;
  };
  const now = useRef({ document: props.document, chosen: props.chosen, cell: fit?.cells.side });
  useEffect(() => {
    now.current = { document: props.document, chosen: props.chosen, cell: fit?.cells.side };
  });

  const selection = props.chosen.join();
  const closeUp = useCallback(() => {
    const from = latest.current;
    const { document: shown, chosen, cell } = now.current;
    if (!from || !cell) return;
    const bars = mountsOf(shown)
      .filter((m) => chosen.includes(m.key))
      .map((m) => m.bar);
    const points = mountsOf(shown)
      .filter((m) => bars.includes(m.bar))
      .map((m) => m.at);
    if (points.length === 0) return;
    const ends = [0, 1, 2].map(
      (i) => [Math.min(...points.map((p) => p[i]!)), Math.max(...points.map((p) => p[i]!))] as const,
    );
    const size = Math.max(ends[0]![1] - ends[0]![0], 300);
    const scale = Math.min(
      (cell.width * 0.6) / size,
      (cell.height * 0.6) / Math.max(ends[2]![1] - ends[2]![0], 250),
      5,
    );
    setOwn({ id: designId, aim: { middle: ends.map(([a, b]) => (a + b) / 2) as Point, scale } });
  }, [designId]);
  const handlers = (view: View) => ({
    onPointerDown: (event: PointerEvent<HTMLDivElement>) => {
      if (!aim || event.button !== 0 || (event.target as Element).closest("[data-mount], [data-pull]"))
        return;
      event.currentTarget.setPointerCapture(event.pointerId);
      fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY });
      pan.current = { x: event.clientX, y: event.clientY, aim };
    },
    onPointerMove: (event: PointerEvent<HTMLDivElement>) => {
      const held = fingers.current;
      const own = held.get(event.pointerId);
      if (own && held.size === 2) {
        const other = [...held].find(([id]) => id !== event.pointerId)![1];
        const apart = (p: { x: number; y: number }) => Math.hypot(p.x - other.x, p.y - other.y);
        const now = { x: event.clientX, y: event.clientY };
        if (apart(own) > 1) zoom(apart(now) / apart(own));
        held.set(event.pointerId, now);
        return;
      }
      const from = pan.current;
      if (!from) return;
      const by = movement(view, from.aim, from.x - event.clientX, from.y - event.clientY);
      look({ ...from.aim, middle: from.aim.middle.map((v, i) => v + by[i]!) as Point });
    },
    onPointerUp: lift,
    onPointerCancel: lift,
    onWheel: (event: React.WheelEvent) => zoom(Math.exp(-event.deltaY * 0.0015)),
  });

  const places: Record<View, (c: Record<View, Cell>) => { left: number; top: number }> = {
    side: () => ({ left: 0, top: 0 }),
    top: (c) => ({ left: 0, top: c.side.height + GAP }),
    rear: (c) => ({ left: c.side.width + GAP, top: 0 }),
  };
  return (
    <Area ref={area} data-testid="drawing">
      {fit && aim && (
        <>
          {VIEWS.map((view) => (
            <div
              key={view}
              style={{ position: "absolute", ...places[view](fit.cells), ...fit.cells[view] }}
              {...handlers(view)}
            >
              <Floor
                document={props.document}
                pose={props.pose}
                travel={props.travel}
                units={props.units}
                chosen={props.chosen}
                dragged={props.dragged}
                marked={props.marked}
                dimensions={props.dimensions}
                ghost={props.ghost}
                onSelect={props.onSelect}
                onDrag={props.onDrag}
                onNudge={props.onNudge}
                view={view}
                aim={aim}
                cell={fit.cells[view]}
                construction={props.construct(view, aim, fit.cells[view])}
                pulls={props.pull(view, aim, fit.cells[view])}
              />
            </div>
          ))}
          <div
            className="corner"
            style={{
              left: fit.cells.side.width + GAP,
              top: fit.cells.side.height + GAP,
              width: fit.cells.rear.width,
              height: fit.cells.top.height,
            }}
          >
            {props.corner}
          </div>
          <div
            className="zoom"
            style={{ top: fit.cells.side.height - 40, right: fit.cells.rear.width + GAP + 6 }}
          >
            {props.tools}
            <ZoomButtons
              onZoom={zoom}
              onFit={fitAll}
              onSelection={closeUp}
              fits={own?.id !== props.designId}
              nothing={selection === ""}
            />
          </div>
          {props.notice}
        </>
      )}
    </Area>
  );
}

const ZoomButtons = memo(function ZoomButtons(props: {
  onZoom: (by: number) => void;
  onFit: () => void;
  onSelection: () => void;
  fits: boolean;
  nothing: boolean;
}) {
  return (
    <>
      <Zoom aria-label="Zoom in" onPress={() => props.onZoom(1.25)}>
        +
      </Zoom>
      <Zoom aria-label="Zoom out" onPress={() => props.onZoom(0.8)}>
        −
      </Zoom>
      <Zoom isDisabled={props.fits} onPress={props.onFit}>
        Fit all
      </Zoom>
      <Zoom isDisabled={props.nothing} onPress={props.onSelection}>
        Close up
      </Zoom>
    </>
  );
});

/** The extent as it was when this design came up: a drag must not move the paper under the hand. */
function useStable(extent: Extent, id: number): Extent {
  const [kept, setKept] = useState({ id, extent });
  if (kept.id !== id) setKept({ id, extent });
  return kept.id === id ? kept.extent : extent;
}
