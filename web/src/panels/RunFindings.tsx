/** Findings on what runs with the axle, and over which poses they are judged; or the one that is chosen. */

import type { Document } from "../document/document";
import { type Of, runOf } from "../figures/runs";
import { Button } from "../ui/controls";
import { plain, type Units } from "../units/tape";
import { FindingList } from "./FindingList";
import { FindingPane } from "./FindingPane";
import { pressing, useSelection } from "../state/selection";
import type { Solved } from "../state/solver";

export function RunFindings(props: {
  document: Document;
  units: Units;
  solved: Solved | null;
  of: readonly Of[];
}) {
  const { document, units, solved, of } = props;
  const { finding: id, find } = useSelection();
  if (!solved) return <p className="quiet">Working it out…</p>;
  const chosen = solved.answer.findings.find((f) => f.id === id);
  if (chosen)
    return (
      <section
        aria-label={chosen.title}
        onKeyDown={(event) => {
          if (event.key === "Escape" && !event.defaultPrevented) find(null);
        }}
      >
        <div className="line">
          <h2>{chosen.title}</h2>
          <Button onPress={() => find(null)}>All findings</Button>
        </div>
        <FindingPane key={chosen.id} {...{ document, solved, units }} finding={chosen} />
      </section>
    );
  const own = solved.answer.findings.filter((f) => {
    const run = runOf(f);
    return run !== null && of.includes(run.figure.of);
  });
  const found = pressing(own);
  const others = pressing(solved.answer.findings).length - found.length;
  return (
    <>
      <Judged allowed={solved.answer.allowed} />
      {found.length > 0 ? (
        <FindingList findings={found} units={units} />
      ) : (
        <p>
          {own.length > 0
            ? `Nothing to stop for, to fix or to consider here: ${own.length} figures are looked at.`
            : "There is nothing here to judge yet."}
        </p>
      )}
      {others > 0 && <p className="quiet">{others} other findings stand in the other areas.</p>}
    </>
  );
}

/** Over which poses what is judged "anywhere" is judged. */
function Judged({ allowed }: { allowed: Solved["answer"]["allowed"] }) {
  return (
    <p className="quiet">
      {allowed.by.length === 0
        ? "Judged over all of travel and twist together: no stop or strap is there that would hold it closer."
        : allowed.share >= 1
          ? "Judged over all of travel and twist together: the stops and straps hold nothing of it back."
          : `Judged over the ${plain(100 * allowed.share, 0)} % of travel and twist together that the stops and straps let it come to.`}
    </p>
  );
}
