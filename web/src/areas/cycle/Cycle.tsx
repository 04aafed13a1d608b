/** The Cycle area: the whole travel and twist on one page; shaft, steering and joints on the floor; what explains what. */

import { figureOf } from "../../api/register";
import { lazy, type ReactNode, Suspense, useState } from "react";
import { Tab, TabList, TabPanel, Tabs } from "react-aria-components";
import styled from "styled-components";

import type { Document } from "../../document/document";
import { useDesign } from "../../state/design";
import { tabRow } from "../../panels/FloorTabs";
import { Strip } from "../../panels/OnFloor";
import { usePreferences } from "../../state/preferences";
import { scrubbed, toTwist, useScrub } from "../../state/scrub";
import { useSelection } from "../../state/selection";
import { type Solved, useSolver } from "../../state/solver";
import { TwistStrip } from "../../panels/TravelStrip";
import { figureTables } from "../../ui/tables";
import type { Units } from "../../units/tape";
import { Complaints } from "./Complaints";
import { Curves } from "./Curves";
import { Driveline } from "./Driveline";
import { HandCheck } from "./HandCheck";
import { Joints } from "./Joints";
import { CycleMap } from "./CycleMap";
import { Schools } from "./Schools";
import { Steering } from "./Steering";

const Solid = lazy(async () => ({ default: (await import("./round/Solid")).Solid }));

const Whole = styled.main`
  grid-row: 4;
  min-height: 0;
  display: grid;
`;

const Area = styled(Tabs)`
  min-height: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  ${tabRow}
  .tabs {
    flex-wrap: wrap;
  }
  .tab {
    padding: 0.375rem 0.875rem;
  }
  .shown {
    min-height: 0;
    display: grid;
  }
  .shown > * {
    grid-row: auto;
  }
`;

const Page = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 3.625rem;
  min-height: 0;
  .content {
    overflow-y: auto;
    min-height: 0;
    padding: 0.5rem 0.875rem 1rem;
    display: grid;
    gap: 0.625rem;
    align-content: start;
  }
  .line {
    display: flex;
    gap: 0.5rem;
    flex-wrap: wrap;
    align-items: center;
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  h2 {
    font-size: 1.0625rem;
    font-weight: 600;
  }
  ${figureTables}
  table {
    width: auto;
    font-size: 0.9375rem;
  }
  th,
  td {
    padding: 2px 0.5rem;
  }
  tr > :first-child {
    padding-left: 0;
  }
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr) 4.75rem;
  }
  @media print {
    display: block;
    .line {
      display: none;
    }
    .content {
      overflow: visible;
    }
  }
`;

export interface Shown {
  document: Document;
  units: Units;
  solved: Solved | null;
}

export function Cycle() {
  const document = useDesign((s) => s.document);
  return document && <OpenCycle document={document} />;
}

const TABS: readonly (readonly [id: string, name: string, on: "page" | "floor"])[] = [
  ["whole", "Whole cycle", "page"],
  ["map", "Map", "floor"],
  ["shaft", "Driveline", "floor"],
  ["steering", "Steering", "floor"],
  ["joints", "Joints", "floor"],
  ["schools", "Schools", "page"],
  ["hand", "Hand check", "page"],
  ["why", "What would explain it", "page"],
  ["solid", "3-D", "page"],
];

const OF_TAB: Record<string, (shown: Shown) => ReactNode> = {
  whole: (shown) => <Curves {...shown} />,
  map: (shown) => <CycleMap {...shown} />,
  shaft: (shown) => <Driveline {...shown} />,
  steering: (shown) => <Steering {...shown} />,
  joints: (shown) => <Joints {...shown} />,
  schools: (shown) => <Schools {...shown} />,
  hand: (shown) => <HandCheck {...shown} />,
  why: (shown) => <Complaints {...shown} />,
  solid: (shown) => (
    <Suspense fallback={<p role="status">Fetching the solid view…</p>}>
      <Solid {...shown} />
    </Suspense>
  ),
};

function OpenCycle({ document }: { document: Document }) {
  const units = usePreferences((s) => s.units);
  const solved = useSolver((s) => s.solved);
  const [tab, setTab] = useState("whole");
  const finding = useSelection((s) => s.finding);
  const tabs = TABS.filter(([id]) => id !== "steering" || document.axle.end === "front");
  const [was, setWas] = useState<string | null>(null);
  if (finding !== was) {
    setWas(finding);
    const found = solved?.answer.findings.find(({ id }) => id === finding);
    const area = found && figureOf(found.figure)?.area;
    if (area !== undefined && tabs.some(([id]) => id === area)) setTab(area);
  }
  const shown = { document, units, solved };
  return (
    <Whole>
      <Area id="pane" data-testid="cycle" selectedKey={tab} onSelectionChange={(key) => setTab(String(key))}>
        <TabList className="tabs" aria-label="Cycle">
          {tabs.map(([id, name]) => (
            <Tab key={id} id={id} className="tab">
              {name}
            </Tab>
          ))}
        </TabList>
        {tabs.map(([id, , on]) => (
          <TabPanel key={id} id={id} className="shown">
            {on === "floor" ? OF_TAB[id]!(shown) : <OnPage {...shown}>{OF_TAB[id]!(shown)}</OnPage>}
          </TabPanel>
        ))}
      </Area>
    </Whole>
  );
}

/** A page with the scrubbers beside it. */
function OnPage({ document, solved, children }: Shown & { children: ReactNode }) {
  const scrub = scrubbed(document, useScrub());
  return (
    <Page>
      <div className="content">
        <TwistStrip most={document.travel.articulation} twist={scrub.articulation} onTwist={toTwist} />
        {children}
      </div>
      <Strip {...{ document, solved, scrub }} />
    </Page>
  );
}
