/** The Cut sheet area: what parts carry, what bars and brackets are made of, and the files that go to the shop. */

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
import type { Units } from "../../units/tape";
import { Bars } from "./Bars";
import { Bolts } from "./Bolts";
import { Brackets } from "./Brackets";
import { useForces } from "./forces";
import { Loads } from "./Loads";
import { MarkOut } from "./MarkOut";
import { usePlates } from "./plates";
import { Shop } from "./Shop";

export interface Shown {
  id: number;
  document: Document;
  units: Units;
}

export function CutSheet() {
  const document = useDesign((s) => s.document);
  const id = useDesign((s) => s.stored?.design ?? 0);
  return document && <OpenCutSheet key={id} id={id} document={document} />;
}

function OpenCutSheet({ id, document }: { id: number; document: Document }) {
  const units = usePreferences((s) => s.units);
  const solved = useSolver((s) => s.solved);
  const standing = useStanding(document, solved);
  const [tab, setTab] = useState<string>("loads");
  const forces = useForces(document, units, tab === "loads");
  const plates = usePlates(document, standing, tab !== "loads", tab === "brackets");
  const shown = { id, document, units };
  return (
    <OnFloor
      {...{ document, standing }}
      layers={tab === "loads" ? forces : plates}
      far={reachOf(document)}
      note={
        <>
          <OtherToBuild document={document} /> {NOTES[tab]}
        </>
      }
      beside={
        <FloorTabs
          label="Cut sheet"
          testid="cut"
          open={tab}
          onOpen={setTab}
          tabs={[
            ["loads", "Loads", <Loads key="loads" {...shown} />],
            ["bars", "Bars", <Bars key="bars" {...shown} />],
            ["brackets", "Brackets", <Brackets key="brackets" {...shown} />],
            ["marks", "Mark-out", <MarkOut key="marks" {...shown} />],
            ["bolts", "Bolts", <Bolts key="bolts" {...shown} />],
            ["shop", "To the shop", <Shop key="shop" {...shown} />],
          ]}
        />
      }
    />
  );
}

const NOTES: Record<string, string> = {
  loads:
    "Arrows to one scale: what the ground, the springs and each bar do to the axle, and what each bar does to the frame. Dashed: the bar is pressed. Full: it is pulled.",
  bars: "A length is from joint center to joint center; what is cut is that less what both ends take up.",
  brackets:
    "Plates are drawn where they will stand, at their real size. They go with what they are welded to.",
  marks: "An estimate from the figures entered, not an approval: tack, measure and cycle before you weld.",
  bolts:
    "An estimate, not an approval. Torques are of plain dry bolts with coarse threads, drawn to three quarters of their proof: plated or oiled ones take less.",
  shop: "An estimate from the figures entered, not an approval. Measure the bar on every print before you cut.",
};
