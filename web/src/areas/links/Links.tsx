/** The Links area: the floor with the constructions that explain figures, readings and findings. */

import { useMemo } from "react";

import { figureOf } from "../../api/register";
import { type Document, spotsOf } from "../../document/document";
import { reachOf } from "../../document/room";
import type { Layer } from "../../floor/Drawing";
import { type Drawn, useDrawn } from "../../floor/drawn";
import { projector, type Standing } from "../../floor/geometry";
import { useAsking } from "../../state/areas";
import { useBehind } from "../../state/behind";
import { useDesign } from "../../state/design";
import { OnFloor } from "../../panels/OnFloor";
import { useStanding } from "../../state/poses";
import { usePreferences } from "../../state/preferences";
import { useSelection } from "../../state/selection";
import { type Solved, useSolver } from "../../state/solver";
import { BoltGrip } from "./BoltGrip";
import { useConverging } from "./ConvergePane";
import { construction, Converging, farPoints } from "./constructions";
import { DrawnMenu } from "./DrawnMenu";
import { GapLine, useGap } from "../../panels/Gaps";
import { LayoutPane } from "./LayoutPane";
import { AtRide, MountSheet } from "./MountSheet";
import { Pane } from "./Pane";
import { PullDots } from "./PullDots";
import { Readings } from "./Readings";
import { TapeSheet } from "./TapeSheet";
import { useWide } from "../../ui/wide";

const FAR_DRAWN: readonly Drawn[] = ["center", "neutral", "axis"];

export function Links() {
  const document = useDesign((s) => s.document);
  return document && <OpenLinks document={document} />;
}

function OpenLinks({ document }: { document: Document }) {
  const solved = useSolver((s) => s.solved);
  const standing = useStanding(document, solved);
  const layers = useLayers(document, solved, standing);
  const drawsFar = useDrawsFar();
  const far = useMemo(
    () => [...reachOf(document), ...(drawsFar ? farPoints({ document, standing, solved }) : [])],
    [drawsFar, document, standing, solved],
  );
  return (
    <OnFloor
      {...{ document, standing, layers, far }}
      tools={<DrawnMenu />}
      corner={<OwnCorner {...{ document, solved }} />}
      beside={<Beside {...{ document, solved }} />}
    />
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
  const chosen = useSelection((s) => s.chosen[0]);
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
      grips: (view, aim, cell) => <BoltGrip {...{ document, standing, chosen, view, aim, cell }} />,
    };
    if (!point || station === null) return [explaining, near];
    const converging: Layer = {
      lines: (view, aim, cell) => (
        <Converging {...{ view, document, standing, aim, cell, kind, point, station }} />
      ),
      grips: () => null,
    };
    return [explaining, near, converging];
  }, [document, solved, standing, reading, drawn, units, point, station, kind, gap, chosen]);
}

interface Solving {
  document: Document;
  solved: Solved | null;
}

/** Beside the readings: the chosen mount, and the findings or what is chosen of them. */
function OwnCorner({ document, solved }: Solving) {
  const units = usePreferences((s) => s.units);
  const { chosen, choose } = useSelection();
  const { open, ask, close } = useAsking();
  const wide = useWide();
  return (
    <>
      {open === "layout" ? (
        <LayoutPane {...{ document, units }} onClose={close} />
      ) : (
        <MountSheet
          {...{ document, solved, units }}
          selected={spotsOf(document).find((m) => m.key === chosen[0]) ?? null}
          others={chosen.length - 1}
          onSelect={choose}
          onOpen={ask}
        />
      )}
      {wide && <Pane {...{ document, solved, units }} />}
      {solved && <AtRide {...{ solved, units }} />}
      {open === "tape" && <TapeSheet {...{ document, units }} onClose={close} />}
    </>
  );
}

/** The figures that are judged. */
function Beside({ document, solved }: Solving) {
  const units = usePreferences((s) => s.units);
  const behind = useBehind((s) => s.behind);
  const { reading, read } = useSelection();
  const wide = useWide();
  return (
    <>
      <Readings {...{ document, solved, units, behind }} chosen={reading} onChoose={read} />
      {!wide && <Pane {...{ document, solved, units }} />}
    </>
  );
}
