/** One finding: why it matters, its band, who would disagree, and the moves that cure it. */

import { useEffect, useState } from "react";
import styled from "styled-components";

import { type Finding, type Schemas, server } from "../../api/client";
import { theRegister } from "../../api/register";
import { placed } from "../../document/document";
import { Button, Trouble } from "../../ui/controls";
import { increment, length, type Units } from "../../units/tape";
import { useAsked } from "../../solve/asking";
import { dropPreview, preview, takePreview } from "../../shell/behind";
import { worth } from "./Findings";
import { moveWords } from "../../figures/moves";
import type { PaneProps } from "./Pane";
import { bandWords, nameOf, quantityOf, show, whereWords } from "../../figures/readings";
import { Mark, SEVERITIES } from "../../figures/Severity";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
  li {
    border: 1px solid var(--hair);
    border-radius: 4px;
    padding: 4px 8px;
    display: grid;
    gap: 2px;
  }
  li[data-shown="true"] {
    border-color: var(--accent);
    background: var(--accent-soft);
  }
`;

export function FindingPane({ document, solved, units, finding }: PaneProps & { finding: Finding }) {
  const quantity = quantityOf(finding);
  const curable = finding.severity !== "good" && finding.id === finding.figure;
  const key = curable ? JSON.stringify([document, finding.id, units]) : null;
  const asked = useAsked(key, () =>
    server.cures({ document, finding: finding.id, increment: increment(units, "shop") }),
  );
  const stale = asked.key !== key;
  return (
    <>
      <p className="line">
        <Mark severity={finding.severity} />
        <strong>
          {SEVERITIES[finding.severity]}
          {finding.value !== null && `: ${worth(finding, units)}`}
        </strong>
        {finding.source && (
          <span className="quiet">
            wanted: {bandWords(finding.low, finding.high, quantity, units)} ({finding.source})
          </span>
        )}
      </p>
      <p>
        {finding.message} {whereWords(finding, units)} {finding.remedy}
      </p>
      {curable && (
        <>
          {(stale || asked.state === "asking") && (
            <p role="status" className="quiet">
              Looking for cures…
            </p>
          )}
          {!stale && asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
          {!stale && asked.data && (
            <Cures key={key} {...{ document, solved, units, finding }} cures={asked.data} />
          )}
        </>
      )}
      <p className="quiet">Who would disagree: {finding.disagrees}</p>
    </>
  );
}

function Cures(
  props: Pick<PaneProps, "document" | "solved" | "units"> & { finding: Finding; cures: Schemas["Cure"][] },
) {
  const { document, solved, units, finding, cures } = props;
  const [shown, setShown] = useState<number | null>(null);
  useEffect(() => dropPreview, []);
  const titles = new Map(solved?.answer.findings.map((f) => [f.id, f.title.toLowerCase()]));
  const names = (ids: string[]) => ids.map((id) => titles.get(id) ?? nameOf(id)).join(", ");
  if (cures.length === 0)
    return (
      <p role="status">
        No single move of a free mount within {length(theRegister().cure_within, units)} cures it.
      </p>
    );
  return (
    <List aria-label="Cures, the least costly first">
      {cures.map((cure, n) => {
        const words = moveWords(document, cure.mounts, cure.axis, cure.by, units);
        const look = () => {
          preview(words, placed(document, cure.at));
          setShown(n);
        };
        const drop = () => {
          dropPreview();
          setShown(null);
        };
        return (
          <CureLine key={words} {...{ cure, words, finding, units, names, look, drop }} shown={shown === n} />
        );
      })}
    </List>
  );
}

/** One cure: what it moves, what comes of it, and looking at it before it is taken. */
function CureLine(props: {
  cure: Schemas["Cure"];
  words: string;
  finding: Finding;
  units: Units;
  names: (ids: string[]) => string;
  shown: boolean;
  look: () => void;
  drop: () => void;
}) {
  const { cure, words, finding, units, names, shown, look, drop } = props;
  const after = cure.figures[finding.id];
  const others = cure.cures.filter((id) => id !== finding.id);
  return (
    <li
      data-shown={shown}
      onKeyDown={(event) => {
        if (!shown || event.key !== "Escape") return;
        event.preventDefault();
        drop();
      }}
    >
      <span>
        {words}
        {after !== undefined && after !== null && finding.unit && (
          <>
            : <strong>{show(after, quantityOf(finding), units)}</strong>
          </>
        )}
      </span>
      {(others.length > 0 || cure.worse.length > 0) && (
        <span className="quiet">
          {others.length > 0 && `Also better: ${names(others)}. `}
          {cure.worse.length > 0 && `Worse: ${names(cure.worse)}.`}
        </span>
      )}
      <span className="line">
        {shown ? (
          <>
            <Button className="main" autoFocus onPress={takePreview}>
              Take it
            </Button>
            <Button onPress={drop}>Drop it</Button>
          </>
        ) : (
          <Button onPress={look}>Look at it</Button>
        )}
      </span>
    </li>
  );
}
