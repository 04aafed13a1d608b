/** The Room area: what is in the way, where mounts may stand, and what room there is; on the same floor. */

import { useEffect, useMemo } from "react";
import { Tab, TabList, TabPanel, Tabs } from "react-aria-components";
import styled from "styled-components";

import { type Document, spotsOf } from "../../document/document";
import { reachOf } from "../../document/room";
import type { Layer } from "../../floor/Drawing";
import { projector } from "../../floor/geometry";
import { CornerPane } from "../../shell/CornerPane";
import { useDesign } from "../../shell/design";
import { GapLine, Gaps, useGap } from "../../shell/Gaps";
import { OnFloor } from "../../shell/OnFloor";
import { useStanding } from "../../shell/poses";
import { usePreferences } from "../../shell/preferences";
import { useChosen, useRoom } from "../../shell/room";
import { useSelection } from "../../shell/selection";
import { useSolver } from "../../shell/solver";
import { length, type Units } from "../../units/tape";
import { mountLabel } from "../../document/document";
import { Editor } from "./Editor";
import { Grips, Outlines } from "./Grips";
import { Sums } from "./Sums";
import { Ways } from "./Ways";
import { Zones } from "./Zones";

const Beside = styled(Tabs)`
  grid-row: 1 / -1;
  min-height: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  .tabs {
    display: flex;
    border-bottom: 1px solid var(--line);
  }
  .tab {
    flex: 1;
    min-height: var(--touch);
    padding: 0.375rem 0.25rem;
    text-align: center;
    cursor: pointer;
    border-bottom: 3px solid transparent;
  }
  .tab[data-selected] {
    border-bottom-color: var(--accent);
    font-weight: 600;
  }
  .panel {
    overflow-y: auto;
    padding: 0.5rem 0.75rem 1rem 0.875rem;
    min-height: 0;
  }
  section,
  .panel > div {
    display: grid;
    gap: 0.5rem;
    align-content: start;
  }
  h2 {
    font-size: 1rem;
    font-weight: 600;
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  .line {
    display: flex;
    gap: 0.375rem;
    flex-wrap: wrap;
  }
  button.row.wide {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
  button.row.wide[aria-pressed="true"] {
    background: var(--accent-soft);
  }
  .place {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
    border-bottom: 1px solid var(--hair);
    padding: 3px 0;
  }
  form {
    grid-template-columns: 1fr 1fr;
    gap: 0.375rem 0.5rem;
  }
`;

export function Room() {
  const document = useDesign((s) => s.document);
  return document && <OpenRoom document={document} />;
}

function OpenRoom({ document }: { document: Document }) {
  const units = usePreferences((s) => s.units);
  const solved = useSolver((s) => s.solved);
  const standing = useStanding(document, solved);
  const gap = useGap((s) => s.here);
  useEffect(() => () => useRoom.getState().choose(null), []);
  const layers = useMemo((): readonly Layer[] => {
    const shown = { document, standing };
    return [
      {
        lines: (view, aim, cell) =>
          gap && <GapLine here={gap} to={projector(view, aim, cell)} units={units} />,
        grips: () => null,
      },
      {
        lines: (view, aim, cell) => <Outlines {...shown} {...{ view, aim, cell }} />,
        grips: (view, aim, cell) => <Grips {...shown} {...{ view, aim, cell }} />,
      },
    ];
  }, [document, standing, gap, units]);
  const far = useMemo(() => reachOf(document), [document]);
  return (
    <OnFloor
      {...{ document, standing, layers, far }}
      whole
      corner={<OwnCorner {...{ document, units }} />}
      beside={<Panes {...{ document, units }} />}
    />
  );
}

const TABS = [
  ["ways", "In the way"],
  ["zones", "Zones"],
  ["gaps", "Clearances"],
  ["sums", "Sums"],
] as const;

function Panes({ document, units }: { document: Document; units: Units }) {
  return (
    <Beside id="pane" data-testid="room">
      <TabList className="tabs" aria-label="Room">
        {TABS.map(([id, name]) => (
          <Tab key={id} id={id} className="tab">
            {name}
          </Tab>
        ))}
      </TabList>
      <TabPanel id="ways" className="panel">
        <Ways {...{ document, units }} />
      </TabPanel>
      <TabPanel id="zones" className="panel">
        <Zones {...{ document, units }} />
      </TabPanel>
      <TabPanel id="gaps" className="panel">
        <Gaps {...{ document, units }} />
      </TabPanel>
      <TabPanel id="sums" className="panel">
        <Sums {...{ document, units }} />
      </TabPanel>
    </Beside>
  );
}

/** Below the rear view: the measures of what is chosen. */
function OwnCorner({ document, units }: { document: Document; units: Units }) {
  const chosen = useChosen(document);
  const choose = useRoom((s) => s.choose);
  const picked = useSelection((s) => s.chosen[0]);
  const mount = spotsOf(document).find((spot) => spot.key === picked);
  if (chosen)
    return (
      <CornerPane
        label="Chosen"
        title={chosen.one.name || chosen.one.id}
        back="Choose nothing"
        onClose={() => choose(null)}
      >
        <Editor {...{ document, units }} which={chosen.which} one={chosen.one} />
      </CornerPane>
    );
  return (
    <p style={{ padding: "0.5rem 1rem", color: "var(--quiet)", fontSize: "0.875rem" }}>
      {mount
        ? `${mountLabel(mount)}: ${mount.at.map((v) => length(v, units)).join(", ")} ahead, left, off the floor.`
        : "Choose a keep-out or a zone in a view or in the list, and drag or type it. Mounts are moved here as in Links."}
    </p>
  );
}
