/** One finding: why it matters, its band, who would disagree, and the moves that cure it. */

import { useEffect, useState } from "react";
import styled from "styled-components";

import { type Finding, type Schemas, server } from "../../api/client";
import { theRegister } from "../../api/register";
import type { Document } from "../../document/document";
import { Button, Trouble } from "../../ui/controls";
import { increment, length, type Units } from "../../units/tape";
import { useAsked } from "../../solve/asking";
import { dropPreview, preview, takePreview } from "../../shell/behind";
import { worth } from "./Findings";
import type { PaneProps } from "./Pane";
import { Rests } from "./Rests";
import { bandWords, nameOf, QUANTITIES, quantityOf, show, whereWords } from "../../figures/readings";
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
    padding: 4px 0.5rem;
  }
  .acts {
    float: right;
    display: grid;
    gap: 4px;
    margin: 0 0 4px 0.5rem;
  }
  .quiet {
    display: block;
  }
  li[data-shown="true"] {
    border-color: var(--accent);
    background: var(--accent-soft);
  }
`;

export function FindingPane({ document, solved, units, finding }: PaneProps & { finding: Finding }) {
  const quantity = quantityOf(finding);
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
        {finding.message} {whereWords(finding, units)} {finding.guessed}
      </p>
      {finding.severity !== "good" && <Sought {...{ document, solved, units, finding }} />}
      <Rests document={document} finding={finding.id} units={units} />
      <p className="quiet">Who would disagree: {finding.disagrees}</p>
    </>
  );
}

type Of = Pick<PaneProps, "document" | "solved" | "units"> & { finding: Finding };

/** What cures it, asked of the core for the design as it stands. */
function Sought({ document, solved, units, finding }: Of) {
  const key = JSON.stringify([document, finding.id, units]);
  const asked = useAsked(key, (signal) =>
    server.cures({ document, finding: finding.id, increment: increment(units, "shop"), units }, signal),
  );
  if (asked.key !== key || asked.state === "asking")
    return (
      <p role="status" className="quiet">
        Looking for cures…
      </p>
    );
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  return asked.data ? <Cures key={key} {...{ document, solved, units, finding }} cures={asked.data} /> : null;
}

function Cures(props: Of & { cures: Schemas["Cure"][] }) {
  const { solved, units, finding, cures } = props;
  const [shown, setShown] = useState<number | null>(null);
  useEffect(() => dropPreview, []);
  const titles = new Map(solved?.answer.findings.map((f) => [f.id, f.title.toLowerCase()]));
  const names = (ids: string[]) => ids.map((id) => titles.get(id) ?? nameOf(id)).join(", ");
  if (cures.length === 0)
    return (
      <p role="status">
        No move of a free mount within {length(theRegister().cure_within, units)} helps, and nothing else that
        was tried does.
      </p>
    );
  return (
    <List aria-label="Cures, the least costly first">
      {cures.map((cure, n) => {
        const look = () => {
          preview(cure.words, cure.document as Document);
          setShown(n);
        };
        const drop = () => {
          dropPreview();
          setShown(null);
        };
        return (
          <CureLine key={cure.words} {...{ cure, finding, units, names, look, drop }} shown={shown === n} />
        );
      })}
    </List>
  );
}

/** One cure: what to do, what comes of it and what it costs, and looking at it before it is taken. */
function CureLine(props: {
  cure: Schemas["Cure"];
  finding: Finding;
  units: Units;
  names: (ids: string[]) => string;
  shown: boolean;
  look: () => void;
  drop: () => void;
}) {
  const { cure, finding, units, names, shown, look, drop } = props;
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
      <span className="acts">
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
      <span>
        {!cure.meets && "Helps, does not cure: "}
        {cure.words}
        {after !== undefined && after !== null && finding.unit && (
          <>
            : <strong>{show(after, quantityOf(finding), units)}</strong>
          </>
        )}
      </span>
      <span className="quiet">
        {cure.price && `${cure.price} `}
        {others.length > 0 && `Also better: ${names(others)}. `}
        {cure.worsens.length > 0 &&
          `Worse: ${cure.worsens.map((one) => worsenedWords(one, units)).join(", ")}.`}
      </span>
    </li>
  );
}

/** "rear steer 2.8° to 3.4°". */
function worsenedWords({ figure, before, after }: Schemas["Worsened"], units: Units): string {
  const known = theRegister().figures.find((f) => f.id === figure);
  const quantity = QUANTITIES[known?.unit ?? "mm"];
  return `${(known?.name ?? figure).toLowerCase()} ${show(before, quantity, units)} to ${show(after, quantity, units)}`;
}
