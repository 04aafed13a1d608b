/** The Links screen: the drawing, the travel strip, the readings. */

import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useParams } from "react-router";
import styled from "styled-components";

import { NO_SERVER } from "../../api/client";
import { useHouse } from "../../api/house";
import {
  type Document,
  type MountPoint,
  moved,
  movedTogether,
  mountsOf,
  type Point,
} from "../../design/document";
import { type Sync, useDesign } from "../../design/store";
import { type Pose, projector, ridePose } from "../../floor/geometry";
import { caught } from "../../floor/guides";
import type { Pace, Phase } from "../../floor/Handle";
import { scrubbed, type Solved, useScrub, useSolver } from "../../solve/solver";
import { Button, CAUTION, Trouble } from "../../ui/controls";
import { usePreferences } from "../../ui/preferences";
import { Header } from "../../ui/Header";
import { increment, snapped } from "../../units/tape";
import { clearBench, pressing, useBench, useDrawn } from "./bench";
import { ConflictSheet } from "./ConflictSheet";
import { useConverging } from "./ConvergePane";
import { construction, Converging } from "./constructions";
import { Drawing } from "./Drawing";
import { DrawnMenu } from "./DrawnMenu";
import { HistorySheet } from "./HistorySheet";
import { MountSheet } from "./MountSheet";
import { Pane } from "./Pane";
import { Play } from "./Play";
import { PullDots } from "./PullDots";
import { usePulling } from "./pulling";
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
  grid-template-columns: minmax(0, 1fr) 70px 334px;
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
    clearBench();
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
function useSame<T extends readonly (number | string)[]>(list: T): T {
  const [kept, setKept] = useState(list);
  const same = kept.length === list.length && kept.every((v, i) => v === list[i]);
  if (!same) setKept(list);
  return same ? kept : list;
}

/** Ctrl+Z and its likes, wherever no text is being typed; Escape lets go of what was chosen. */
function useKeys() {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.target instanceof HTMLInputElement) return;
      const key = event.key.toLowerCase();
      const { undo, redo } = useDesign.getState();
      if (key === "y" || (key === "z" && event.shiftKey)) redo();
      else if (key === "z") undo();
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
}

/** The mounts that move when this one is taken hold of: all that are chosen, if it is one of them. */
function takenWith(document: Document, mount: MountPoint): MountPoint[] {
  const { chosen } = useBench.getState();
  return chosen.includes(mount.key) ? mountsOf(document).filter((m) => chosen.includes(m.key)) : [mount];
}

/** Dragging from the document as it was when taken hold of: it previews; letting go edits. */
function useDragging() {
  const base = useRef<{ document: Document; mounts: MountPoint[] } | null>(null);
  const [dragged, setDragged] = useState<string | null>(null);
  const onDrag = useCallback((taken: MountPoint, by: Point, pace: Pace, phase: Phase, reach: number) => {
    const { document: shown, preview, edit } = useDesign.getState();
    if (phase === "start") base.current = shown && { document: shown, mounts: takenWith(shown, taken) };
    const from = base.current;
    if (!from || phase === "start") return;
    const step = increment(usePreferences.getState().units, pace);
    let at = taken.at.map((v, i) => snapped(v, by[i]!, step)) as Point;
    const axes = [0, 1, 2].filter((i) => Math.abs(by[i]!) >= step / 2);
    if (pace === "shop" && from.mounts.length === 1)
      at = caught(from.document, taken, at, Math.min(reach, step), axes);
    const next = movedTogether(from.document, from.mounts, at.map((v, i) => v - taken.at[i]!) as Point);
    if (phase === "move") {
      setDragged(taken.key);
      preview(next);
      return;
    }
    base.current = null;
    setDragged(null);
    edit(phase === "end" ? next : from.document, from.document);
  }, []);
  return { onDrag, dragged };
}

const onNudge = (taken: MountPoint, by: Point, pace: Pace) => {
  const { document: shown, edit } = useDesign.getState();
  const step = increment(usePreferences.getState().units, pace);
  if (shown) edit(movedTogether(shown, takenWith(shown, taken), by.map((v) => v * step) as Point));
};

const onPlace = (taken: MountPoint, at: Point) => {
  const { document: shown, edit } = useDesign.getState();
  if (shown) edit(moved(shown, taken, at));
};

function OpenDesign({ id, document }: { id: number; document: Document }) {
  const build = useDesign((s) => s.stored?.build_name ?? "");
  const sync = useDesign((s) => s.sync);
  const units = usePreferences((s) => s.units);
  const { chosen, reading, finding, behind, choose, read } = useBench();
  const drawn = useDrawn((s) => s.drawn);
  const { travel, articulation } = scrubbed(document, useScrub());
  const { solved, refusal, lost } = useSolver();
  const converging = useConverging();
  const [history, setHistory] = useState(false);
  const house = useHouse();
  const { onDrag, dragged } = useDragging();
  useKeys();
  const radius = document.axle.tire_radius_loaded;
  const pose = useSame(poseOf(solved, radius));
  const behindPose = useSame(
    behind
      ? poseOf(
          behind.answer && { ...solved!, answer: behind.answer },
          behind.document.axle.tire_radius_loaded,
        )
      : NOWHERE,
  );
  const ghost = useMemo(
    () => behind && { document: behind.document, pose: behindPose },
    [behind, behindPose],
  );
  const mount = mountsOf(document).find((m) => m.key === chosen[0]) ?? null;
  const marked = useSame(solved?.answer.findings.find((f) => f.id === finding)?.place ?? NOTHING);
  const marks = useSame(
    pressing(solved?.answer.findings ?? []).flatMap((f) =>
      f.sweep === "heave" && f.worst_at !== null ? [f.worst_at] : [],
    ),
  );
  const openHistory = useCallback(() => setHistory(true), []);
  return (
    <Page>
      <Header name={document.name} build={build} design={id} onHistory={openHistory} />
      <Bench>
        <Drawing
          designId={id}
          document={document}
          pose={pose}
          travel={pose[2]! - radius}
          units={units}
          chosen={chosen}
          dragged={dragged}
          marked={marked}
          dimensions={drawn.includes("dimensions")}
          ghost={ghost}
          onSelect={choose}
          onDrag={onDrag}
          onNudge={onNudge}
          construct={(view, aim, cell) => (
            <>
              {construction(reading, drawn, view, solved, document, pose, aim, cell)}
              {converging.point && converging.station !== null && (
                <Converging
                  {...{ view, document, aim, cell, kind: converging.kind }}
                  point={converging.point}
                  station={converging.station}
                />
              )}
            </>
          )}
          pull={(view, aim, cell) =>
            solved?.answer.here.reached[0] && (
              <PullDots
                reading={reading}
                aim={aim}
                units={units}
                scene={{ view, solved, document, pose, cell, to: projector(view, aim, cell) }}
              />
            )
          }
          tools={<DrawnMenu />}
          notice={<Says solved={solved} refusal={refusal} lost={lost} sync={sync} />}
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
                others={chosen.length - 1}
                onSelect={choose}
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
            marks={marks}
            travel={travel}
            units={units}
            onTravel={toTravel}
          />
          <Play />
        </div>
        <div className="readings">
          <Readings
            document={document}
            solved={solved}
            units={units}
            chosen={reading}
            behind={behind}
            onChoose={read}
          />
          <Pane document={document} solved={solved} units={units} house={house} />
        </div>
      </Bench>
      <Foot>
        <div>
          <strong>{saidTravel(travel, units)}.</strong>{" "}
          {behind
            ? `Drawn dashed behind: ${behind.name}. Beside the readings: how much more or less it has.`
            : "Choose a reading to see what it is, what moves it, and to pull it; choose a finding to see its cures."}
        </div>
        {CAUTION}
      </Foot>
      {history && (
        <HistorySheet id={id} document={document} units={units} onClose={() => setHistory(false)} />
      )}
      {sync.state === "conflict" && <ConflictSheet newest={sync.newest} mine={document} units={units} />}
    </Page>
  );
}

const NOTHING: readonly string[] = [];
const NOWHERE: Pose = [];

/** What is wrong with what is on the floor, said on the floor. */
function Says(props: { solved: Solved | null; refusal: string | null; lost: boolean; sync: Sync }) {
  const { solved, refusal, lost, sync } = props;
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
      {!refusal &&
        stops.slice(0, 2).map((finding) => (
          <Trouble key={finding.id}>
            <strong>Stop: {finding.title}.</strong> {finding.message}
          </Trouble>
        ))}
    </Notices>
  );
}
