/** What areas on the floor have in common: the three views of the open design, the strips, what is wrong with it. */

import type { ReactNode } from "react";
import styled from "styled-components";

import { NO_SERVER } from "../api/client";
import type { Document, Point } from "../document/document";
import { Drawing, type Layer } from "../floor/Drawing";
import { useDrawn } from "../floor/drawn";
import type { Standing } from "../floor/geometry";
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

const Area = styled.main`
  grid-row: 3;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 3.625rem 21.75rem;
  min-height: 0;
  .readings {
    border-left: 1px solid var(--hair);
    min-height: 0;
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
  }
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr) 4.75rem;
    grid-template-rows: 40rem auto;
    .readings {
      grid-column: 1 / -1;
      border-left: 0;
      border-top: 1px solid var(--hair);
    }
  }
`;

const Rail = styled.div`
  border-left: 1px solid var(--hair);
  min-height: 0;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
`;

const Corner = styled.div`
  display: grid;
  align-content: start;
  .twist {
    padding: 0.375rem 1rem 0;
    border-bottom: 1px solid var(--hair);
  }
`;

const Notices = styled.div`
  position: absolute;
  left: 0.5rem;
  bottom: 2.125rem;
  max-width: min(28.75rem, 50%);
  font-size: 0.875rem;
  pointer-events: none;
  display: grid;
  gap: 0.375rem;
  .said {
    pointer-events: auto;
  }
  .offers {
    display: flex;
    gap: 0.375rem;
    margin-top: 0.375rem;
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
  corner: ReactNode;
  beside: ReactNode;
}

export function OnFloor({
  document,
  standing,
  layers,
  far,
  fitsFar = false,
  within = false,
  tools,
  corner,
  beside,
}: Given) {
  const id = useDesign((s) => s.stored?.design ?? 0);
  const units = usePreferences((s) => s.units);
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
    <Area as={within ? "div" : "main"}>
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
        tools={tools}
        notice={<Says solved={solved} />}
        corner={
          <Corner>
            <div className="twist">
              <TwistStrip most={document.travel.articulation} twist={scrub.articulation} onTwist={toTwist} />
            </div>
            {corner}
          </Corner>
        }
      />
      <Strip {...{ document, solved, scrub }} />
      <div className="readings">{beside}</div>
    </Area>
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
