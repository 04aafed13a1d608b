/** The Weigh up area: alternatives side by side, holes, places that are found, and how exact a hole must be. */

import { useState } from "react";

import type { Document } from "../../document/document";
import { reachOf } from "../../document/room";
import { FloorTabs } from "../../panels/FloorTabs";
import { OnFloor } from "../../panels/OnFloor";
import { useDesign } from "../../state/design";
import { useStanding } from "../../state/poses";
import { usePreferences } from "../../state/preferences";
import { useSolver } from "../../state/solver";
import type { Units } from "../../units/tape";
import { Beside } from "./Beside";
import { BuildThis } from "./BuildThis";
import { Finder } from "./Finder";
import { Holes } from "./Holes";
import { Tolerance } from "./Tolerance";
import { useRings } from "./rings";

export interface Shown {
  id: number;
  document: Document;
  units: Units;
  /** Below the rear view, where what is wide is shown. */
  slot: HTMLElement | null;
}

export function Weigh() {
  const document = useDesign((s) => s.document);
  const id = useDesign((s) => s.stored?.design ?? 0);
  return document && <OpenWeigh key={id} id={id} document={document} />;
}

function OpenWeigh({ id, document }: { id: number; document: Document }) {
  const units = usePreferences((s) => s.units);
  const solved = useSolver((s) => s.solved);
  const standing = useStanding(document, solved);
  const [tab, setTab] = useState<string>("beside");
  const layers = useRings(document, units, tab === "exact");
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  const shown = { id, document, units, slot };
  return (
    <OnFloor
      {...{ document, standing, layers }}
      far={reachOf(document)}
      corner={<div ref={setSlot} className="slot" role="group" aria-label="Compared" tabIndex={0} />}
      note={NOTES[tab]}
      beside={
        <FloorTabs
          label="Weigh up"
          testid="weigh"
          open={tab}
          onOpen={setTab}
          tabs={[
            [
              "beside",
              "Side by side",
              [<Beside key="beside" {...shown} />, <BuildThis key="build" document={document} />],
            ],
            ["holes", "Holes", <Holes key="holes" {...shown} />],
            ["find", "Find places", <Finder key="find" {...shown} />],
            ["exact", "How exact", <Tolerance key="exact" {...shown} />],
          ]}
        />
      }
    />
  );
}

const NOTES: Record<string, string> = {
  beside: "What another design has elsewhere is drawn behind this one once you look at it.",
  holes: "A combination of holes that you look at is drawn behind the one in use.",
  find: "A place that was found is drawn behind the one that stands, until you take it or drop it.",
  exact: "A ring is how far that hole may be off, any way, drawn fifty times its size.",
};
