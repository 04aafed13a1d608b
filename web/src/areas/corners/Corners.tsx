/** The Corners area: springs, shocks, stops and straps, on the same floor: placed, sized, and judged through the cycle. */

import { useState } from "react";

import { bodiesOf, type Document } from "../../document/document";
import { capital } from "../../document/parts";
import { reachOf } from "../../document/room";
import { CornerPane } from "../../panels/CornerPane";
import { useDesign } from "../../state/design";
import { FloorTabs } from "../../panels/FloorTabs";
import { Gaps } from "../../panels/Gaps";
import { useGapLayer } from "../../panels/gapLayer";
import { OnFloor } from "../../panels/OnFloor";
import { RunFindings } from "../../panels/RunFindings";
import { useStanding } from "../../state/poses";
import { usePreferences } from "../../state/preferences";
import { useSelection } from "../../state/selection";
import { type Solved, useSolver } from "../../state/solver";
import type { Units } from "../../units/tape";
import { useChosenPart } from "./chosen";
import { Editor } from "./Editor";
import { Ends } from "./Ends";
import { Parts } from "./Parts";
import { Sit } from "./Sit";

export function Corners() {
  const document = useDesign((s) => s.document);
  return document && <OpenCorners document={document} />;
}

function OpenCorners({ document }: { document: Document }) {
  const units = usePreferences((s) => s.units);
  const solved = useSolver((s) => s.solved);
  const standing = useStanding(document, solved);
  const layers = useGapLayer(units);
  const part = useChosenPart(document);
  return (
    <OnFloor
      {...{ document, standing, layers }}
      far={reachOf(document)}
      corner={part === null ? null : <OwnCorner {...{ document, units, part }} />}
      note="Choose a shock, stop or strap in a view or in the list, and drag its eyes or type its sizes. What is moved here is moved as mounts are in Links."
      beside={<Panes {...{ document, units, solved }} />}
    />
  );
}

interface Shown {
  document: Document;
  units: Units;
  solved: Solved | null;
}

function Panes(props: Shown) {
  const [tab, setTab] = useState<string>("parts");
  const finding = useSelection((s) => s.finding);
  const [was, setWas] = useState(finding);
  if (finding !== was) {
    setWas(finding);
    if (finding !== null) setTab("findings");
  }
  return (
    <FloorTabs
      label="Corners"
      testid="corners"
      open={tab}
      onOpen={setTab}
      tabs={[
        ["parts", "Parts", <Parts key="parts" {...props} />],
        ["findings", "Findings", <RunFindings key="findings" {...props} of={["shock", "stop", "strap", "bar", "axle"]} />],
        ["ends", "Ends", <Ends key="ends" {...props} />],
        ["sit", "Sit", <Sit key="sit" {...props} />],
        ["gaps", "Gaps", <Gaps key="gaps" document={props.document} units={props.units} />],
      ]}
    />
  ); // prettier-ignore
}

/** Beside the list: the sizes of what is chosen. */
function OwnCorner({ document, units, part }: { document: Document; units: Units; part: string }) {
  const { unchoose } = useSelection();
  const words = bodiesOf(document).find((body) => body.id === part)?.words ?? part;
  return (
    <CornerPane label="Chosen" title={capital(words)} back="Choose nothing" onClose={unchoose}>
      <Editor key={`${part} ${units}`} {...{ document, units, part }} />
    </CornerPane>
  );
}
