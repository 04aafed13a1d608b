/** The Fit-up area: gates in the order of the work, readings at the truck, what was built, and what to correct. */

import { useState } from "react";
import { Tab, TabList, TabPanel } from "react-aria-components";

import type { Document } from "../../document/document";
import { reachOf } from "../../document/room";
import { FloorTabs } from "../../panels/FloorTabs";
import { OnFloor } from "../../panels/OnFloor";
import { OtherToBuild } from "../../panels/ToBuild";
import { useDesign } from "../../state/design";
import { useStanding } from "../../state/poses";
import { usePreferences } from "../../state/preferences";
import { useSolver } from "../../state/solver";
import { type TruckDocument, useTruck } from "../../state/truck";
import type { Units } from "../../units/tape";
import { Trouble } from "../../ui/controls";
import { AsBuilt } from "./AsBuilt";
import { useBuilt } from "./built";
import { Gates } from "./Gates";
import { Readings } from "./Readings";

export interface Shown {
  document: Document;
  truck: TruckDocument;
  units: Units;
}

export function FitUp() {
  const document = useDesign((s) => s.document);
  const id = useDesign((s) => s.stored?.design ?? 0);
  return document && <OpenFitUp key={id} document={document} />;
}

const TABS = [
  ["gates", "Gates"],
  ["readings", "Readings"],
  ["built", "As built"],
] as const;

function OpenFitUp({ document }: { document: Document }) {
  const units = usePreferences((s) => s.units);
  const { truck, trouble } = useTruck();
  const solved = useSolver((s) => s.solved);
  const standing = useStanding(document, solved);
  const [tab, setTab] = useState<string>("gates");
  const layers = useBuilt(document, truck?.document ?? null, units);
  const shown = truck && { document, truck: truck.document, units };
  return (
    <OnFloor
      {...{ document, standing, layers }}
      far={reachOf(document)}
      note={
        <>
          <OtherToBuild document={document} /> {NOTES[tab]}
        </>
      }
      beside={
        <FloorTabs
          id="pane"
          data-testid="fit-up"
          selectedKey={tab}
          onSelectionChange={(key) => setTab(String(key))}
        >
          <TabList className="tabs" aria-label="Fit-up">
            {TABS.map(([key, name]) => (
              <Tab key={key} id={key} className="tab">
                {name}
              </Tab>
            ))}
          </TabList>
          {TABS.map(([key]) => (
            <TabPanel key={key} id={key} className="panel">
              {trouble && <Trouble role="alert">{trouble}</Trouble>}
              {shown ? <Part of={key} {...shown} /> : !trouble && <p role="status">Fetching the truck…</p>}
            </TabPanel>
          ))}
        </FloorTabs>
      }
    />
  );
}

function Part({ of, ...shown }: Shown & { of: (typeof TABS)[number][0] }) {
  if (of === "gates") return <Gates {...shown} />;
  return of === "readings" ? <Readings {...shown} /> : <AsBuilt {...shown} />;
}

const NOTES: Record<string, string> = {
  gates: "A gate is passed, failed, or passed with a reason that is written down; never silently.",
  readings: "Heights are off the floor, the chassis blocked at ride height. A mount that was read is drawn where it stands, ten times as far off as it is.",
  built: "A ring shows a mount as built, ten times as far off the design as it is; the wider the ring, the less sure.",
}; // prettier-ignore
