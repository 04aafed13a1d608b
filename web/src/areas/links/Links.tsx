/** The Links area: the floor with the constructions that explain figures, the travel strip, readings and findings. */

import { useMemo } from "react";
import styled from "styled-components";

import { NO_SERVER } from "../../api/client";
import { figureOf } from "../../api/register";
import { type Document, spotsOf } from "../../document/document";
import { reachOf } from "../../document/room";
import { Drawing, type Layer } from "../../floor/Drawing";
import { type Drawn, useDrawn } from "../../floor/drawn";
import { projector, type Standing } from "../../floor/geometry";
import { useAsking } from "../../shell/areas";
import { useBehind } from "../../shell/behind";
import { onNudge, useDragging } from "../../shell/dragging";
import { type Sync, useDesign } from "../../shell/design";
import { Play } from "../../shell/Play";
import { useGhost, useSame, useStanding } from "../../shell/poses";
import { usePreferences } from "../../shell/preferences";
import { useSaid } from "../../shell/said";
import { type Scrub, scrubbed, toTravel, toTwist, useScrub } from "../../shell/scrub";
import { pressing, useSelection } from "../../shell/selection";
import { TravelStrip, TwistStrip } from "../../shell/TravelStrip";
import { usePulling } from "../../shell/pulling";
import { type Solved, useSolver } from "../../shell/solver";
import { Button, Trouble } from "../../ui/controls";
import { useConverging } from "./ConvergePane";
import { construction, Converging, farPoints } from "./constructions";
import { DrawnMenu } from "./DrawnMenu";
import { GapLine, useGap } from "./Gaps";
import { LayoutPane } from "./LayoutPane";
import { MountSheet } from "./MountSheet";
import { Pane } from "./Pane";
import { PullDots } from "./PullDots";
import { Readings } from "./Readings";
import { RoomPane } from "./RoomPane";
import { TapeSheet } from "./TapeSheet";

const Area = styled.main`
  grid-row: 3;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 3.625rem 21.75rem;
  min-height: 0;
  .strip {
    border-left: 1px solid var(--hair);
    min-height: 0;
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto;
  }
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
const FAR_DRAWN: readonly Drawn[] = ["center", "neutral", "axis"];
const MOST_NOTICES = 2;

export function Links() {
  const document = useDesign((s) => s.document);
  return document && <OpenLinks document={document} />;
}

function OpenLinks({ document }: { document: Document }) {
  const id = useDesign((s) => s.stored?.design ?? 0);
  const units = usePreferences((s) => s.units);
  const { chosen, finding, choose, unchoose } = useSelection();
  const drawn = useDrawn((s) => s.drawn);
  const scrub = scrubbed(document, useScrub());
  const solved = useSolver((s) => s.solved);
  const standing = useStanding(document, solved);
  const ghost = useGhost(
    useBehind((s) => s.behind),
    scrub,
  );
  const { onDrag, dragged } = useDragging();
  const marked = useSame(solved?.answer.findings.find((f) => f.id === finding)?.place.parts ?? NOTHING);
  const layers = useLayers(document, solved, standing);
  const drawsFar = useDrawsFar();
  const far = useMemo(
    () => [...reachOf(document), ...(drawsFar ? farPoints({ document, standing, solved }) : [])],
    [drawsFar, document, standing, solved],
  );
  return (
    <Area>
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
        tools={<DrawnMenu />}
        notice={<Says solved={solved} />}
        corner={<OwnCorner {...{ document, solved }} twist={scrub.articulation} />}
      />
      <Strip {...{ document, solved, scrub }} />
      <Beside {...{ document, solved }} />
    </Area>
  );
}

/** Whether centers and apexes are drawn: then all of it has them on the paper too. */
function useDrawsFar(): boolean {
  const reading = useSelection((s) => s.reading);
  const drawn = useDrawn((s) => s.drawn);
  const asked = (reading === null ? null : figureOf(reading)?.construction) ?? null;
  return FAR_DRAWN.some((one) => one === asked || drawn.includes(one));
}

/** The lines of the chosen figure and of those that always stand, and the results that can be pulled. */
function useLayers(document: Document, solved: Solved | null, standing: Standing): readonly Layer[] {
  const reading = useSelection((s) => s.reading);
  const drawn = useDrawn((s) => s.drawn);
  const units = usePreferences((s) => s.units);
  const { point, station, kind } = useConverging();
  const gap = useGap((s) => s.here);
  return useMemo(() => {
    const asked = (reading === null ? null : figureOf(reading)?.construction) ?? null;
    const explaining: Layer = {
      lines: (view, aim, cell) =>
        solved &&
        construction(asked, drawn, {
          view,
          solved,
          document,
          standing,
          cell,
          to: projector(view, aim, cell),
        }),
      grips: (view, aim, cell) =>
        solved?.answer.here.reached[0] && (
          <PullDots
            {...{ reading, aim, units }}
            scene={{ view, solved, document, standing, cell, to: projector(view, aim, cell) }}
          />
        ),
    };
    const near: Layer = {
      lines: (view, aim, cell) => gap && <GapLine here={gap} to={projector(view, aim, cell)} units={units} />,
      grips: () => null,
    };
    if (!point || station === null) return [explaining, near];
    const converging: Layer = {
      lines: (view, aim, cell) => (
        <Converging {...{ view, document, standing, aim, cell, kind, point, station }} />
      ),
      grips: () => null,
    };
    return [explaining, near, converging];
  }, [document, solved, standing, reading, drawn, units, point, station, kind, gap]);
}

interface Solving {
  document: Document;
  solved: Solved | null;
}

/** Below the rear view: the twist, and the chosen mount. */
function OwnCorner({ document, solved, twist }: Solving & { twist: number }) {
  const units = usePreferences((s) => s.units);
  const { chosen, choose } = useSelection();
  const { open, ask, close } = useAsking();
  return (
    <Corner>
      <div className="twist">
        <TwistStrip most={document.travel.articulation} twist={twist} onTwist={toTwist} />
      </div>
      {open === "layout" && <LayoutPane {...{ document, units }} onClose={close} />}
      {open === "room" && <RoomPane {...{ document, units }} onClose={close} />}
      {open !== "layout" && open !== "room" && (
        <MountSheet
          {...{ document, solved, units }}
          selected={spotsOf(document).find((m) => m.key === chosen[0]) ?? null}
          others={chosen.length - 1}
          onSelect={choose}
          onOpen={ask}
        />
      )}
      {open === "tape" && <TapeSheet {...{ document, units }} onClose={close} />}
    </Corner>
  );
}

/** The travel strip, with marks where findings are worst. */
function Strip({ document, solved, scrub }: Solving & { scrub: Scrub }) {
  const units = usePreferences((s) => s.units);
  const marks = useSame(
    pressing(solved?.answer.findings ?? []).flatMap(({ place }) =>
      typeof place.travel === "number" && !place.articulation ? [place.travel] : [],
    ),
  );
  const [low, high] = solved?.answer.stops.heave ?? [null, null];
  const { bump, droop } = document.travel;
  return (
    <div className="strip">
      <TravelStrip {...{ bump, droop, low, high, marks, units }} travel={scrub.travel} onTravel={toTravel} />
      <Play />
    </div>
  );
}

/** Beside the drawing: readings, and below them findings or what is chosen. */
function Beside({ document, solved }: Solving) {
  const units = usePreferences((s) => s.units);
  const behind = useBehind((s) => s.behind);
  const { reading, read } = useSelection();
  return (
    <div className="readings">
      <Readings {...{ document, solved, units, behind }} chosen={reading} onChoose={read} />
      <Pane {...{ document, solved, units }} />
    </div>
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
        <Trouble>This can’t be worked out: {refusal}. The figures are those of the last good place.</Trouble>
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
