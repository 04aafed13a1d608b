/** One finding: why it matters, its band, who would disagree, and the moves that cure it. */

import { type Finding, server } from "../api/client";
import { figureOf, theRegister } from "../api/register";
import type { Document } from "../document/document";
import { increment, inUnits, length, unbroken, type Units } from "../units/tape";
import { Cures } from "./Cures";
import { RunPane } from "./RunPane";
import type { Solved } from "../state/solver";
import { Rests } from "./Rests";
import { bandWords, QUANTITIES, quantityOf, show, whereWords, worth } from "../figures/readings";
import { runOf } from "../figures/runs";
import { Mark, SEVERITIES } from "../figures/Severity";

export interface PaneProps {
  document: Document;
  solved: Solved | null;
  units: Units;
}

export function FindingPane({ document, solved, units, finding }: PaneProps & { finding: Finding }) {
  const quantity = quantityOf(finding);
  const lookUp = figureOf(finding.figure)?.verdict?.to_look_up;
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
      <p>{unbroken(inUnits(`${finding.message} ${whereWords(finding, units)} ${finding.guessed}`, units))}</p>
      <Facts facts={finding.facts} units={units} />
      {solved && runOf(finding) && <RunPane {...{ document, solved, units, finding }} />}
      {finding.severity !== "good" &&
        (lookUp ? <p>{lookUp}</p> : <Sought {...{ document, units, finding }} />)}
      <Rests document={document} finding={finding.id} units={units} />
      <p className="quiet">Who would disagree: {finding.disagrees}</p>
    </>
  );
}

/** What else can be told of it in figures. */
function Facts({ facts, units }: { facts: Finding["facts"]; units: Units }) {
  return facts.map(({ words, value, unit }) => (
    <p key={words}>{unbroken(`${words} ${show(value, QUANTITIES[unit], units)}.`)}</p>
  ));
}

/** What cures it, asked of the core for the design as it stands. */
export function Sought({ document, units, finding }: Omit<PaneProps, "solved"> & { finding: Finding }) {
  const quantity = quantityOf(finding);
  return (
    <Cures
      about={[document, finding.id, units]}
      ask={(signal) =>
        server.cures({ document, finding: finding.id, increment: increment(units, "shop"), units }, signal)
      }
      units={units}
      own={finding.id}
      after={(cure) => {
        const value = cure.figures[finding.id];
        return typeof value === "number" && finding.unit ? show(value, quantity, units) : null;
      }}
      nothing={`Within ${length(theRegister().cure_within, units)} no move of a free mount that can be built and makes nothing meet helps, and nothing else that was tried does.`}
    />
  );
}
