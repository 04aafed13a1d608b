/** The axle in the round: fetched when it is asked for. The same selection, scrubbers and findings as everywhere. */

import { type RefObject, useEffect, useRef, useState } from "react";
import * as three from "three";
import styled from "styled-components";

import { bodiesOf, type Document, spotsOf, words } from "../../../document/document";
import { capital } from "../../../document/parts";
import type { Standing } from "../../../floor/geometry";
import { useStanding } from "../../../state/poses";
import { usePreferences } from "../../../state/preferences";
import { useSelection } from "../../../state/selection";
import { Button, Choice, Trouble } from "../../../ui/controls";
import type { Shown } from "../Cycle";
import { onAxle, onFrame, swinging } from "./bodies";
import { ground, shades } from "./ground";
import { dispose, type Materials, materials } from "./ink";
import { merged } from "./merged";
import { vector } from "./shapes";
import { aim, type Stage, staged, type ViewName, VIEWS } from "./stage";

const Place = styled.div`
  height: max(26rem, calc(100vh - 16rem));
  border: 1px solid var(--hair);
  background: var(--sheet);
  canvas {
    display: block;
    width: 100%;
    height: 100%;
    touch-action: none;
  }
`;

/** Whether this browser draws in the round at all. */
const draws = (): boolean => {
  try {
    return window.document.createElement("canvas").getContext("webgl2") !== null;
  } catch {
    return false;
  }
};

export function Solid(shown: Shown) {
  const [can] = useState(draws);
  if (can) return <InTheRound {...shown} />;
  return (
    <Trouble role="alert">
      This browser draws nothing in the round here. The three views on the floor show the same.
    </Trouble>
  );
}

function InTheRound({ document, solved }: Shown) {
  const standing = useStanding(document, solved);
  const [view, setView] = useState<ViewName>("corner");
  const place = useRef<HTMLDivElement>(null);
  const { chosen, finding, choose } = useSelection();
  const part = spotsOf(document).find((spot) => spot.key === chosen[0])?.part ?? null;
  const marked = solved?.answer.findings.find((f) => f.id === finding)?.place.parts ?? [];
  const pick = (id: string) => {
    const spot = spotsOf(document).find((one) => one.part === id || one.name.startsWith(`${id}.`));
    if (spot) choose(spot.key);
  };
  useStage({ place, document, standing, view, part, marked, pick });
  return (
    <>
      <div className="line">
        {(Object.keys(VIEWS) as ViewName[]).map((one) => (
          <Button key={one} aria-pressed={view === one} onPress={() => setView(one)}>
            {VIEWS[one][0]}
          </Button>
        ))}
        <Choice
          label="Part"
          placeholder="Choose a part"
          value={part}
          options={bodiesOf(document).map((body) => [body.id, capital(body.words)] as const)}
          onChange={pick}
        />
        <span className="quiet">
          Drag to turn it, wheel to come nearer; arrows and + − with the keyboard. Press a part to choose it.
        </span>
      </div>
      <Place
        ref={place}
        role="application"
        aria-roledescription="solid view"
        aria-label={`${document.name} in the round, ${VIEWS[view][0].toLowerCase()}${part ? `; ${words(part)} is chosen` : ""}`}
        tabIndex={0}
      />
    </>
  );
}

interface Staged {
  place: RefObject<HTMLDivElement | null>;
  document: Document;
  standing: Standing;
  view: ViewName;
  part: string | null;
  marked: readonly string[];
  pick: (id: string) => void;
}

/** What is rigid is made once a design; what swings, and the floor, at each pose. */
function useStage({ place, document, standing, view, part, marked, pick }: Staged): void {
  const stage = useRef<Stage | null>(null);
  const inks = useRef<Materials | null>(null);
  const theme = usePreferences((s) => s.theme);
  const latest = useRef(pick);
  useEffect(() => {
    latest.current = pick;
  });
  useEffect(() => {
    if (!place.current) return;
    const [made, end] = staged(place.current, (id) => latest.current(id));
    stage.current = made;
    return () => {
      for (const group of groupsOf(made)) dispose(group);
      end();
      stage.current = null;
    };
  }, [place]);
  const parts = marked.map((name) => name.split(".")[0]!).join(" ");
  useEffect(() => {
    const now = stage.current;
    if (!now) return;
    inks.current = materials();
    dispose(now.frame);
    dispose(now.axle);
    const shown = { document, chosen: part, marked: parts.split(" "), use: inks.current };
    now.frame.add(...merged(onFrame(shown)));
    now.axle.add(...merged(onAxle(shown)));
  }, [document, part, parts, theme]);
  useEffect(() => {
    const [now, use] = [stage.current, inks.current];
    if (!now || !use) return;
    dispose(now.swinging);
    dispose(now.floor);
    now.axle.matrix.copy(carriedBy(standing));
    now.named = swinging({ document, chosen: part, marked: parts.split(" "), use }, standing);
    now.swinging.add(...merged(now.named.map(({ mesh }) => mesh)));
    now.scene.updateMatrixWorld(true);
    const [slab, level] = ground(document, standing, use);
    now.floor.add(...slab, ...[now.axle, now.swinging].flatMap((group) => shades(group, level, use)));
    now.draw();
  }, [document, standing, part, parts, theme]);
  useEffect(() => {
    if (stage.current) aim(stage.current, view);
  }, [view, document.name]);
}

const groupsOf = ({ frame, axle, swinging: swings, floor }: Stage) => [frame, axle, swings, floor];

/** What the axle's pose does to its points, as a matrix. */
function carriedBy(standing: Standing): three.Matrix4 {
  const origin = standing.place("axle", [0, 0, 0]);
  const ways = ([[1, 0, 0], [0, 1, 0], [0, 0, 1]] as const).map((way) =>
    vector(standing.place("axle", [...way]).map((v, i) => v - origin[i]!)),
  ); // prettier-ignore
  return new three.Matrix4().makeBasis(ways[0]!, ways[1]!, ways[2]!).setPosition(vector(origin));
}
