/** The Room area: what is in the way, where mounts may stand, and what room there is; on the same floor. */

import { useEffect, useMemo } from "react";

import { type Document, spotsOf } from "../../document/document";
import { reachOf } from "../../document/room";
import type { Layer } from "../../floor/Drawing";
import { useBrought } from "../../state/brought";
import { CornerPane } from "../../panels/CornerPane";
import { useDesign } from "../../state/design";
import { FloorTabs } from "../../panels/FloorTabs";
import { useGapLayer } from "../../panels/gapLayer";
import { Gaps } from "../../panels/Gaps";
import { OnFloor } from "../../panels/OnFloor";
import { useStanding } from "../../state/poses";
import { usePreferences } from "../../state/preferences";
import { useChosen, useRoom } from "../../state/room";
import { useSelection } from "../../state/selection";
import { useSolver } from "../../state/solver";
import { length, type Units } from "../../units/tape";
import { mountLabel } from "../../document/document";
import { BroughtGrip, BroughtOutlines } from "./BroughtLayer";
import { Editor } from "./Editor";
import { Grips, Outlines } from "./Grips";
import { Sums } from "./Sums";
import { Ways } from "./Ways";
import { Zones } from "./Zones";

export function Room() {
  const document = useDesign((s) => s.document);
  return document && <OpenRoom document={document} />;
}

function OpenRoom({ document }: { document: Document }) {
  const units = usePreferences((s) => s.units);
  const solved = useSolver((s) => s.solved);
  const standing = useStanding(document, solved);
  const gapLayer = useGapLayer(units);
  useEffect(
    () => () => {
      useRoom.getState().choose(null);
      useBrought.getState().drop();
    },
    [],
  );
  const layers = useMemo((): readonly Layer[] => {
    const shown = { document, standing };
    return [
      ...gapLayer,
      {
        lines: (view, aim, cell) => <Outlines {...shown} {...{ view, aim, cell }} />,
        grips: (view, aim, cell) => <Grips {...shown} {...{ view, aim, cell }} />,
      },
      {
        lines: (view, aim, cell) => <BroughtOutlines {...{ view, aim, cell }} />,
        grips: (view, aim, cell) => <BroughtGrip {...{ view, aim, cell }} />,
      },
    ];
  }, [document, standing, gapLayer]);
  const far = useMemo(() => reachOf(document), [document]);
  const chosen = useChosen(document);
  const picked = useSelection((one) => one.chosen[0]);
  const mount = spotsOf(document).find((spot) => spot.key === picked);
  return (
    <OnFloor
      {...{ document, standing, layers, far }}
      fitsFar
      corner={chosen && <OwnCorner {...{ document, units, chosen }} />}
      beside={<Panes {...{ document, units }} />}
      note={
        mount
          ? `${mountLabel(mount)}: ${mount.at.map((v) => length(v, units)).join(", ")} ahead, left, off the floor.`
          : "Choose a keep-out or a zone in a view or in the list, and drag or type it. Mounts are moved here as in Links."
      }
    />
  );
}

function Panes({ document, units }: { document: Document; units: Units }) {
  return (
    <FloorTabs
      label="Room"
      testid="room"
      tabs={[
        ["ways", "In the way", <Ways key="ways" {...{ document, units }} />],
        ["zones", "Zones", <Zones key="zones" {...{ document, units }} />],
        ["gaps", "Clearances", <Gaps key="gaps" {...{ document, units }} />],
        ["sums", "Sums", <Sums key="sums" {...{ document, units }} />],
      ]}
    />
  );
}

/** Beside the list: the measures of what is chosen. */
function OwnCorner(props: {
  document: Document;
  units: Units;
  chosen: NonNullable<ReturnType<typeof useChosen>>;
}) {
  const { document, units, chosen } = props;
  return (
    <CornerPane
      label="Chosen"
      title={chosen.one.name || chosen.one.id}
      back="Choose nothing"
      onClose={() => useRoom.getState().choose(null)}
    >
      <Editor {...{ document, units }} which={chosen.which} one={chosen.one} />
    </CornerPane>
  );
}
