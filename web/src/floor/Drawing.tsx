/** The three views side by side: one zoom, one middle, one pose in all. Areas hand in what they draw on them. */

import { memo, type ReactNode, useCallback, useRef } from "react";
import styled from "styled-components";

import type { Point } from "../document/document";
import { Button } from "../ui/controls";
import { closeUp, GAP, useAim, usePanning, useSize } from "./aim";
import { Floor, type FloorProps } from "./Floor";
import type { Aim, Cell, View } from "./geometry";

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
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
    padding: 0.375rem 1rem 0;
  }
`;

const Zoom = styled(Button)`
  min-width: 2.25rem;
  padding: 2px 0.5rem;
  white-space: nowrap;
`;

/** What an area draws on a view: lines of its own, and things to take hold of. */
export interface Layer {
  lines: (view: View, aim: Aim, cell: Cell) => ReactNode;
  grips: (view: View, aim: Aim, cell: Cell) => ReactNode;
}

type Shared = Omit<FloorProps, "view" | "aim" | "cell" | "layers">;

interface DrawingProps extends Shared {
  designId: number;
  layers: readonly Layer[];
  /** Points that areas draw and that all of it has to hold: an instant center, an apex. */
  far: readonly Point[];
  /** Whether those are in sight from the start. */
  fitsFar?: boolean;
  tools: ReactNode;
  corner: ReactNode;
  notice: ReactNode;
}

const PLACES: Record<View, (cells: Record<View, Cell>) => { left: number; top: number }> = {
  side: () => ({ left: 0, top: 0 }),
  top: (cells) => ({ left: 0, top: cells.side.height + GAP }),
  rear: (cells) => ({ left: cells.side.width + GAP, top: 0 }),
};

export function Drawing({
  designId,
  layers,
  far,
  fitsFar = false,
  tools,
  corner,
  notice,
  ...shared
}: DrawingProps) {
  const area = useRef<HTMLDivElement>(null);
  const { document, chosen } = shared;
  const { aim, cells, look, zoom, fitAll, fits } = useAim(designId, document, useSize(area), far, fitsFar);
  const panning = usePanning(aim, look, zoom);
  const now = useRef({ document, chosen, cells });
  now.current = { document, chosen, cells }; // eslint-disable-line react-hooks/refs -- read on a press only
  const near = useCallback(() => {
    const at = now.current.cells && closeUp(now.current.document, now.current.chosen, now.current.cells.side);
    if (at) look(at);
  }, [look]);
  if (!cells || !aim) return <Area ref={area} data-testid="drawing" />;
  return (
    <Area ref={area} id="floor" tabIndex={-1} data-testid="drawing">
      {VIEWS.map((view) => (
        <div
          key={view}
          style={{ position: "absolute", ...PLACES[view](cells), ...cells[view] }}
          {...panning(view)}
        >
          <Floor {...shared} layers={layers} view={view} aim={aim} cell={cells[view]} />
        </div>
      ))}
      <div
        className="corner"
        style={{
          left: cells.side.width + GAP,
          top: cells.side.height + GAP,
          width: cells.rear.width,
          height: cells.top.height,
        }}
      >
        <div className="zoom">
          {tools}
          <ZoomButtons
            onZoom={zoom}
            onFit={fitAll}
            onSelection={near}
            fits={fits}
            nothing={chosen.length === 0}
          />
        </div>
        {corner}
      </div>
      {notice}
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
        Zoom to chosen
      </Zoom>
    </>
  );
});
