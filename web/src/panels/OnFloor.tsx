/** What areas on the floor have in common: the three views of the open design, the strips, what is wrong with it. */

import type { ReactNode } from "react";
import styled from "styled-components";

import { NO_SERVER } from "../api/client";
import type { Document, Point } from "../document/document";
import { GAP } from "../floor/aim";
import { Drawing, type Layer } from "../floor/Drawing";
import { useDrawn } from "../floor/drawn";
import type { Cell, Standing } from "../floor/geometry";
import { Button, Trouble } from "../ui/controls";
import { useBehind } from "../state/behind";
import { type Sync, useDesign } from "../state/design";
import { onNudge, useDragging } from "../state/dragging";
import { Play, played } from "./Play";
import { useGhost, useSame } from "../state/poses";
import { usePreferences } from "../state/preferences";
import { usePulling } from "../state/pulling";
import { useSaid } from "../state/said";
import { type Scrub, scrubbed, toTravel, toTwist, useScrub } from "../state/scrub";
import { pressing, useSelection } from "../state/selection";
import { type Solved, useSolver } from "../state/solver";
import { TravelStrip, TwistStrip } from "./TravelStrip";
import { isWide } from "../ui/wide";

/** Of a wide screen: the corner beside the views, with the columns in it; rem. */
const PANE = { wide: 38.5, row: 2.875, first: 19.5 };
/** How much of the height the corner takes. */
const PANE_TALL = 0.62;

const Area = styled.main`
  grid-row: 4;
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 3.625rem;
  min-height: 0;
  .readings {
    min-height: 0;
    display: flex;
    flex-direction: column;
    & > :first-child {
      flex: 1;
      min-height: 0;
    }
  }
  &:has(> [aria-live] > *) .readings,
  &:has(> [aria-live] > *) .own {
    padding-bottom: 3.625rem; /* what lies under the notice can be scrolled out from under it */
  }
  &:has(> [aria-live] > *) .note {
    display: none;
  }
  .note {
    padding: 0.25rem 0.875rem 0.375rem;
    color: var(--quiet);
    font-size: 0.875rem;
  }
  @media (min-width: 1001px) {
    .readings {
      position: absolute;
      right: calc(3.625rem + ${PANE.wide - PANE.first}rem);
      bottom: 0;
      width: ${PANE.first}rem;
      height: calc((100% - ${GAP}px) * ${PANE_TALL} - ${PANE.row}rem);
      border-right: 1px solid var(--hair);
    }
    &[data-corner="false"] .readings {
      right: 3.625rem;
      width: ${PANE.wide}rem;
      border-right: 0;
    }
    &[data-lead="top"] .readings {
      top: ${PANE.row}rem;
      bottom: auto;
    }
    &[data-lead="rear"] .readings {
      left: 0;
      right: auto;
    }
  }
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr) 4.75rem;
    grid-template-rows: 40rem auto;
    .readings {
      grid-column: 1 / -1;
      border-top: 1px solid var(--hair);
    }
  }
  @media print {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(40rem, auto) auto;
  }
`;

/** What is wrong, over the foot of the pane: never over parts, and moving nothing when it comes or goes. */
const Notices = styled.div`
  position: absolute;
  right: 3.625rem;
  bottom: 0;
  width: ${PANE.wide}rem;
  font-size: 0.875rem;
  pointer-events: none;
  display: grid;
  gap: 2px;
  z-index: 2;
  .said {
    pointer-events: auto;
  }
  .offers {
    display: flex;
    gap: 0.375rem;
    margin-top: 0.375rem;
  }
  [data-lead="top"] > & {
    bottom: calc((100% - ${GAP}px) * ${1 - PANE_TALL} + ${GAP}px);
  }
  [data-lead="rear"] > & {
    left: 0;
    right: auto;
  }
  @media (max-width: 1000px) {
    position: sticky;
    grid-column: 1 / -1;
    width: auto;
  }
  @media print {
    position: static;
    grid-column: 1 / -1;
    width: auto;
  }
`;

const root = () => Number.parseFloat(getComputedStyle(window.document.documentElement).fontSize) || 16;

/** The corner of a wide screen; on a tablet the views leave one of their own size, and what else there is stands below. */
const paneOf = ({ height }: Cell): Cell | null =>
  isWide() ? { width: PANE.wide * root(), height: (height - GAP) * PANE_TALL } : null;

const Rail = styled.div`
  border-left: 1px solid var(--hair);
  min-height: 0;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
`;

const Corner = styled.div`
  min-height: 100%;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  .tools {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px;
    padding: 0.25rem 0.75rem;
    border-bottom: 1px solid var(--hair);
  }
  .twist {
    flex: 1 1 12rem;
  }
  .own {
    display: flex;
    flex-direction: column;
    & > * {
      flex: none;
    }
  }
  @media (min-width: 1001px) {
    height: 100%;
    .tools {
      flex-wrap: nowrap;
      height: ${PANE.row}rem;
    }
    .own {
      margin-left: ${PANE.first}rem;
      overflow-y: auto;
    }
    .own:has(> .slot) {
      overflow: hidden;
    }
    .slot {
      flex: 1 1 auto;
      min-height: 0;
      overflow: auto;
      padding: 0.25rem 0.75rem;
    }
  }
`;

const NOTHING: readonly string[] = [];
const MOST_NOTICES = 2;

interface Given {
  document: Document;
  standing: Standing;
  layers: readonly Layer[];
  far: readonly Point[];
  /** Whether all that is far out is in sight from the start. */
  fitsFar?: boolean;
  /** It stands within the main part of the page, and is not that itself. */
  within?: boolean;
  tools?: ReactNode;
  /** What is said of what is chosen, beside the rest; left out where nothing is. */
  corner?: ReactNode;
  beside: ReactNode;
  /** How this area is used, in a line. */
  note?: ReactNode;
}

export function OnFloor({
  document,
  standing,
  layers,
  far,
  fitsFar = false,
  within = false,
  tools,
  corner = null,
  beside,
  note,
}: Given) {
  const id = useDesign((s) => s.stored?.design ?? 0);
  const { units, lead, setLead } = usePreferences();
  const { chosen, finding, choose, unchoose } = useSelection();
  const drawn = useDrawn((s) => s.drawn);
  const scrub = scrubbed(document, useScrub());
  const solved = useSolver((s) => s.solved);
  const ghost = useGhost(
    useBehind((s) => s.behind),
    scrub,
  );
  const { onDrag, dragged } = useDragging();
  const marked = useSame(solved?.answer.findings.find((f) => f.id === finding)?.place.parts ?? NOTHING);
  return (
    <Area as={within ? "div" : "main"} data-lead={lead} data-corner={corner !== null}>
      <Drawing
        designId={id}
        document={document}
        standing={standing}
        travel={standing.pose[2]! - document.axle.tire_radius_loaded}
        units={units}
        chosen={chosen}
        dragged={dragged}
        marked={marked}
        dimensions={drawn.includes("dimensions")}
        ghost={ghost}
        onSelect={choose}
        onDrag={onDrag}
        onNudge={onNudge}
        onLeave={unchoose}
        layers={layers}
        far={far}
        fitsFar={fitsFar}
        lead={lead}
        onLead={setLead}
        pane={paneOf}
        corner={(zoom) => <InCorner {...{ document, tools, zoom, corner }} twist={scrub.articulation} />}
      />
      <Strip {...{ document, solved, scrub }} />
      <div className="readings">
        {beside}
        {note && <div className="note">{note}</div>}
      </div>
      <Says solved={solved} />
    </Area>
  );
}

/** Beside the views: what looks closer, the twist, what is wrong, and what the area has to say of what is chosen. */
function InCorner(props: {
  document: Document;
  twist: number;
  tools: ReactNode;
  zoom: ReactNode;
  corner: ReactNode;
}) {
  const { document, twist, tools, zoom, corner } = props;
  return (
    <Corner>
      <div className="tools">
        {tools}
        {zoom}
        <div className="twist">
          <TwistStrip most={document.travel.articulation} twist={twist} onTwist={toTwist} />
        </div>
      </div>
      <div className="own">{corner}</div>
    </Corner>
  );
}

/** The travel strip, with marks where findings are worst. */
export function Strip({
  document,
  solved,
  scrub,
}: {
  document: Document;
  solved: Solved | null;
  scrub: Scrub;
}) {
  const units = usePreferences((s) => s.units);
  const marks = useSame(
    pressing(solved?.answer.findings ?? []).flatMap(({ place }) =>
      typeof place.travel === "number" && !place.articulation ? [place.travel] : [],
    ),
  );
  const [low, high] = solved?.answer.stops.heave ?? [null, null];
  const { bump, droop } = document.travel;
  return (
    <Rail className="strip">
      <TravelStrip {...{ bump, droop, low, high, marks, units }} travel={scrub.travel} onTravel={toTravel} />
      <Play words="Cycle" along={played} />
    </Rail>
  );
}

/** What is wrong with what is on the floor, said on the floor. */
function Says({ solved }: { solved: Solved | null }) {
  const { refusal, lost } = useSolver();
  const sync: Sync = useDesign((s) => s.sync);
  const short = usePulling((s) => s.short);
  const stops = solved?.answer.findings.filter((finding) => finding.severity === "stop") ?? [];
  return (
    <Notices aria-live="polite">
      {sync.state === "refused" && (
        <Trouble role="alert">Not stored: {sync.why}. It is back as it was.</Trouble>
      )}
      {refusal && (
        <Trouble>
          This can’t be worked out: {refusal.replace(/\.$/, "")}. The figures are those of the last good
          place.
        </Trouble>
      )}
      {lost && <Trouble>{NO_SERVER} The figures are those of the last answer.</Trouble>}
      {short && <Trouble>The free mounts can’t follow all the way: this is the nearest they get.</Trouble>}
      <WasSaid />
      {!refusal &&
        stops.slice(0, MOST_NOTICES).map((finding) => (
          <Trouble key={finding.id}>
            <strong>Stop: {finding.title}.</strong> {finding.message}
          </Trouble>
        ))}
    </Notices>
  );
}

/** What was typed or done and is no longer on screen, with what can still be done about it. */
function WasSaid() {
  const { said, read } = useSaid();
  if (!said) return null;
  return (
    <Trouble role="alert" as="div" className="said">
      {said.words}
      <span className="offers">
        {said.offers.map((offer) => (
          <Button
            key={offer.words}
            onPress={() => {
              read();
              offer.act();
            }}
          >
            {offer.words}
          </Button>
        ))}
        <Button onPress={read}>Read</Button>
      </span>
    </Trouble>
  );
}
