/** The Fit-up area: gates in the order of the work, readings at the truck, what was built, and what to correct. */

import { useState } from "react";

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
import { Drives } from "./Drives";
import { Gates } from "./Gates";
import { OnWeight } from "./OnWeight";
import { Readings } from "./Readings";
import { Waiting } from "./Waiting";

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
  ["gates", "Gates", Gates],
  ["readings", "Readings", Readings],
  ["built", "As built", AsBuilt],
  ["weight", "On weight", OnWeight],
  ["drives", "Drives", Drives],
  ["waiting", "Waiting", Waiting],
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
          label="Fit-up"
          testid="fit-up"
          open={tab}
          onOpen={setTab}
          tabs={TABS.map(([key, name, Part]) => [
            key,
            name,
            [
              trouble && (
                <Trouble key="trouble" role="alert">
                  {trouble}
                </Trouble>
              ),
              shown ? (
                <Part key={key} {...shown} />
              ) : (
                !trouble && (
                  <p key="status" role="status">
                    Fetching the truck…
                  </p>
                )
              ),
            ],
          ])}
        />
      }
    />
  );
}

const NOTES: Record<string, string> = {
  gates: "A gate is passed, failed, or passed with a reason that is written down; never silently.",
  readings: "Heights are off the floor, the chassis blocked at ride height. A mount that was read is drawn where it stands, ten times as far off as it is.",
  weight: "Rated stands under a truck that is held up, nobody under a jack. An estimate from the figures entered, not an approval.",
  drives: "Torque every fastener again after the first drive. An estimate from the figures entered, not an approval.",
  waiting: "A plan, not a promise: it rests on the days and hours that were said, and on hours that are guessed.",
  built: "A ring shows a mount as built, ten times as far off the design as it is; the wider the ring, the less sure.",
}; // prettier-ignore
