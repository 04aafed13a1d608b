/** The Links screen: the drawing, the travel strip, the readings. */

import { useCallback, useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import styled from "styled-components";

import { NO_SERVER } from "../../api/client";
import { type Document, type MountPoint, mountsOf, moved, type Point } from "../../design/document";
import { type Sync, useDesign } from "../../design/store";
import { type Pose, ridePose } from "../../floor/geometry";
import type { Pace, Phase } from "../../floor/Handle";
import { scrubbed, type Solved, useScrub, useSolver } from "../../solve/solver";
import { Button, CAUTION, Trouble } from "../../ui/controls";
import { usePreferences } from "../../ui/preferences";
import { Header } from "../../ui/Header";
import { increment, length, plain, snapped, type Units } from "../../units/tape";
import { ConflictSheet } from "./ConflictSheet";
import { construction } from "./constructions";
import { Drawing } from "./Drawing";
import { MountSheet } from "./MountSheet";
import { type ReadingId, readingsOf } from "./readings";
import { Readings } from "./Readings";
import { saidTravel, TravelStrip, TwistStrip } from "./TravelStrip";

const Page = styled.div`
  height: 100%;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  @media (max-width: 1000px) {
    height: auto;
    min-height: 100%;
  }
`;

const Bench = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 76px 290px;
  min-height: 0;
  .strip {
    border-left: 1px solid var(--hair);
  }
  .readings {
    border-left: 1px solid var(--hair);
    min-height: 0;
    overflow-y: auto;
  }
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr) 76px;
    grid-template-rows: 640px auto;
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
    padding: 6px 16px 0;
    border-bottom: 1px solid var(--hair);
  }
`;

const Foot = styled.footer`
  padding: 4px 14px 5px;
  font-size: 12.5px;
  color: var(--quiet);
  border-top: 1px solid var(--hair);
`;

const Notices = styled.div`
  position: absolute;
  left: 8px;
  bottom: 34px;
  max-width: min(460px, 50%);
  font-size: 14px;
  pointer-events: none;
  display: grid;
  gap: 6px;
`;

const Middle = styled.main`
  padding: 40px;
  display: grid;
  gap: 16px;
  justify-items: start;
  align-content: start;
`;

export function LinksScreen() {
  const id = Number(useParams()["id"]);
  const document = useDesign((s) => s.document);
  const trouble = useDesign((s) => s.trouble);
  const sync = useDesign((s) => s.sync);
  const open = useDesign((s) => s.open);
  useEffect(() => {
    useScrub.setState({ travel: 0, articulation: 0 });
    void open(id);
  }, [id, open]);

  if (document && sync.state !== "gone") return <OpenDesign id={id} document={document} />;
  return (
    <Page>
      <Header />
      <Middle>
        {sync.state === "gone" ? (
          <>
            <Trouble role="alert">{sync.why}</Trouble>
            <Button className="main" onPress={() => void useDesign.getState().bringBack()}>
              Bring it back
            </Button>
          </>
        ) : trouble ? (
          <>
            <Trouble role="alert">{trouble}</Trouble>
            <Button onPress={() => void open(id)}>Try again</Button>
          </>
        ) : (
          <p role="status">Opening the design…</p>
        )}
      </Middle>
    </Page>
  );
}

/** Where the axle stands in the last good answer: as asked, or at the end of what it can reach. */
function poseOf(solved: Solved | null, radius: number): Pose {
  if (!solved) return ridePose(radius);
  const { here, heave, articulation } = solved.answer;
  if (here.reached[0]) return here.state[0] as number[];
  const sweep = Math.abs(solved.articulation) > 0.01 ? articulation : heave;
  const along = sweep.columns[sweep === heave ? "travel" : "articulation"]!;
  const wanted = sweep === heave ? solved.travel : solved.articulation;
  const nearest = sweep.reached
    .map((reached, n) => ({ n, off: reached ? Math.abs((along[n] ?? 0) - wanted) : Infinity }))
    .sort((a, b) => a.off - b.off)[0];
  return nearest && Number.isFinite(nearest.off) ? (sweep.state[nearest.n] as number[]) : ridePose(radius);
}

const toTravel = (travel: number) => useScrub.setState({ travel });
const toTwist = (articulation: number) => useScrub.setState({ articulation });

/** The same array as long as it holds the same numbers: what has not moved need not be drawn again. */
function useSame(pose: Pose): Pose {
  const [kept, setKept] = useState(pose);
  const same = kept.length === pose.length && kept.every((v, i) => v === pose[i]);
  if (!same) setKept(pose);
  return same ? kept : pose;
}

function OpenDesign({ id, document }: { id: number; document: Document }) {
  const build = useDesign((s) => s.stored?.build_name ?? "");
  const sync = useDesign((s) => s.sync);
  const { units, paired, setPaired } = usePreferences();
  const [selected, setSelected] = useState<string | null>(null);
  const scrub = scrubbed(document, useScrub());
  const [reading, setReading] = useState<ReadingId | null>(null);
  const { travel, articulation } = scrub;
  const { solved, refusal, lost } = useSolver();
  const mount = mountsOf(document).find((m) => m.key === selected) ?? null;
  const pose = useSame(poseOf(solved, document.axle.tire_radius_loaded));
  const base = useRef<Document | null>(null);

  const onDrag = useCallback((taken: MountPoint, by: Point, pace: Pace, phase: Phase) => {
    const { document: shown, preview, edit } = useDesign.getState();
    const preferences = usePreferences.getState();
    if (phase === "start") base.current = shown;
    const from = base.current;
    if (!from || phase === "start") return;
    const step = increment(preferences.units, pace);
    const at = taken.at.map((v, i) => snapped(v, by[i]!, step)) as Point;
    const next = moved(from, taken, at, preferences.paired);
    if (phase === "move") preview(next);
    else base.current = null;
    if (phase === "end") edit(next, from);
    if (phase === "cancel") edit(from, from);
  }, []);

  const onNudge = useCallback((taken: MountPoint, by: Point, pace: Pace) => {
    const { document: shown, edit } = useDesign.getState();
    const preferences = usePreferences.getState();
    const step = increment(preferences.units, pace);
    const at = taken.at.map((v, i) => v + by[i]! * step) as Point;
    if (shown) edit(moved(shown, taken, at, preferences.paired));
  }, []);

  const onPlace = (taken: MountPoint, at: Point) => {
    const { edit } = useDesign.getState();
    edit(moved(document, taken, at, paired));
  };

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      if (event.target instanceof HTMLInputElement) return;
      event.preventDefault();
      const { undo, redo } = useDesign.getState();
      (event.shiftKey ? redo : undo)();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);

  const drawnTravel = pose[2]! - document.axle.tire_radius_loaded;
  return (
    <Page>
      <Header name={document.name} build={build} />
      <Bench>
        <Drawing
          designId={id}
          document={document}
          pose={pose}
          travel={drawnTravel}
          units={units}
          selected={selected}
          onSelect={setSelected}
          onDrag={onDrag}
          onNudge={onNudge}
          construct={(view, aim, cell) => construction(reading, view, solved, document, pose, aim, cell)}
          notice={<Says solved={solved} refusal={refusal} lost={lost} sync={sync} units={units} />}
          corner={
            <Corner>
              <div className="twist">
                <TwistStrip most={document.travel.articulation} twist={articulation} onTwist={toTwist} />
              </div>
              <MountSheet
                document={document}
                solved={solved}
                units={units}
                selected={mount}
                paired={paired}
                onPaired={setPaired}
                onSelect={setSelected}
                onPlace={onPlace}
              />
            </Corner>
          }
        />
        <div className="strip">
          <TravelStrip
            bump={document.travel.bump}
            droop={document.travel.droop}
            low={solved?.answer.stops.heave[0] ?? null}
            high={solved?.answer.stops.heave[1] ?? null}
            travel={travel}
            units={units}
            onTravel={toTravel}
          />
        </div>
        <div className="readings">
          <Readings
            document={document}
            solved={solved}
            units={units}
            chosen={reading}
            onChoose={setReading}
          />
        </div>
      </Bench>
      <Foot>
        <div>
          <strong>{saidTravel(travel, units)}.</strong>{" "}
          {readingsOf(document).find((r) => r.id === reading)?.meaning ??
            "Choose a reading to see what it is and how it comes about."}
        </div>
        {CAUTION}
      </Foot>
      {sync.state === "conflict" && <ConflictSheet newest={sync.newest} mine={document} units={units} />}
    </Page>
  );
}

/** What is wrong with what is on the floor, said on the floor. */
function Says(props: {
  solved: Solved | null;
  refusal: string | null;
  lost: boolean;
  sync: Sync;
  units: Units;
}) {
  const { solved, refusal, lost, sync, units } = props;
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
      {!refusal &&
        stops.map((finding) => (
          <Trouble key={finding.id}>
            {finding.message}{" "}
            {finding.value === null
              ? ""
              : `(${finding.unit === "mm" ? length(finding.value, units) : `${plain(finding.value, 1)}°`}) `}
            {finding.remedy}
          </Trouble>
        ))}
    </Notices>
  );
}
