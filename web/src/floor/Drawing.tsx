/** The three views side by side: one zoom, one middle, one pose in all. Areas hand in what they draw on them. */

import { type CSSProperties, memo, type ReactNode, useCallback, useMemo, useRef } from "react";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";

import type { Point } from "../document/document";
import { Button } from "../ui/controls";
import { closeUp, GAP, useAim, usePanning, useSize } from "./aim";
import { Floor, type FloorProps } from "./Floor";
import { type Aim, type Cell, type Pane, placed, VIEW_NAMES, type View } from "./geometry";

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
  @media print {
    min-height: var(--high);
    overflow: visible;
    contain: none;
    .corner {
      position: static;
      margin: var(--place);
      height: auto !important;
      overflow: visible;
      contain: none;
    }
  }
`;

/** Where the corner stands; on paper it goes on downward for as long as it has to. */
const cornerAt = ({ left, top }: { left: number; top: number }, size: Cell) =>
  ({ left, top, ...size, "--place": `${top}px 0 0 ${left}px` }) as CSSProperties;

const Zoom = styled(Button)`
  min-width: 2.25rem;
  min-height: 2.25rem;
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
  /** The view that stands first; and another is to. */
  lead: View;
  onLead: (view: View) => void;
  /** Whether those are in sight from the start. */
  fitsFar?: boolean;
  /** The size of the corner that the views leave free; null: as they leave it. */
  pane: (size: Cell) => Pane | null;
  /** What stands there; it gets what looks closer and farther. */
  corner: (zoom: ReactNode) => ReactNode;
}

export function Drawing({ designId, layers, far, fitsFar = false, lead, onLead, pane, corner, ...shared }: DrawingProps) {
  const area = useRef<HTMLDivElement>(null);
  const { document, chosen } = shared;
  const size = useSize(area);
  const beside = useMemo(() => size && pane(size), [size, pane]); // asks for the size of type: not at every move
  const { aim, cells, look, zoom, fitAll, fits } = useAim(designId, document, size, far, fitsFar, beside);
  const panning = usePanning(aim, look, zoom);
  const now = useRef({ document, chosen, cells });
  now.current = { document, chosen, cells }; // eslint-disable-line react-hooks/refs -- read on a press only
  const near = useCallback(() => {
    const at = now.current.cells && closeUp(now.current.document, now.current.chosen, now.current.cells.side);
    if (at) look(at);
  }, [look]);
  if (!cells || !aim) return <Area ref={area} data-testid="drawing" />;
  const places = placed(lead, cells, GAP);
  return (
    <Area ref={area} id="floor" tabIndex={-1} data-testid="drawing" style={{ "--high": `${size!.height}px` }}>
      {VIEWS.map((view) => (
        <div
          key={view}
          data-view={view}
          style={{ position: "absolute", ...places[view], ...cells[view] }}
          {...panning(view)}
        >
          <Floor {...shared} layers={layers} view={view} aim={aim} cell={cells[view]} />
          <Title view={view} leads={view === lead} onLead={onLead} />
        </div>
      ))}
      <div
        className="corner"
        style={cornerAt(places.corner, { width: cells.rear.width, height: cells.top.height })}
      >
        {corner(
          <ZoomButtons
            onZoom={zoom}
            onFit={fitAll}
            onSelection={near}
            fits={fits}
            nothing={chosen.length === 0}
          />,
        )}
      </div>
    </Area>
  );
} // prettier-ignore

const Named = styled(ToggleButton)`
  position: absolute;
  left: 0;
  top: 0;
  padding: 0.25rem 0.625rem;
  border: 0;
  background: none;
  color: var(--quiet);
  font-size: 0.75rem;
  font-weight: 500;
  text-transform: uppercase;
  cursor: pointer;
  text-shadow:
    0 0 3px var(--sheet),
    0 0 3px var(--sheet);
  &[data-hovered] {
    color: var(--ink);
    text-decoration: underline;
  }
  @media (pointer: coarse) {
    min-height: var(--touch);
  }
`;

/** What view it is, and which way the front lies; pressed, it leads: the others stand in projection to it. */
const Title = memo(function Title(props: { view: View; leads: boolean; onLead: (view: View) => void }) {
  const { view, leads, onLead } = props;
  return (
    <Named isSelected={leads} onChange={() => onLead(view)}>
      {VIEW_NAMES[view]}
      {view !== "rear" && " ◄ front"}
    </Named>
  );
});

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
      <Zoom aria-label="Fit all" isDisabled={props.fits} onPress={props.onFit}>
        All
      </Zoom>
      <Zoom aria-label="Zoom to chosen" isDisabled={props.nothing} onPress={props.onSelection}>
        Chosen
      </Zoom>
    </>
  );
});
