/**
 * The readings beside the drawing. What was judged stands first, with its verdict; then, told apart, a small curve on the
 * band, or where the axle is moved the value there, or what the design behind has and is judged.
 */

import { memo } from "react";
import styled from "styled-components";

import type { CycleAnswer, Finding } from "../../api/client";
import type { Document } from "../../document/document";
import { type Solved, useIsJudged } from "../../state/solver";
import type { Units } from "../../units/tape";
import type { Behind } from "../../state/behind";
import { Curve } from "../../figures/Curve";
import { judged, LEAST, type Reading, readingsOf, show, valueOf, verdictOf } from "../../figures/readings";
import { saidBySeverity } from "../../ui/severity";

const List = styled.div`
  display: grid;
  align-content: start;
  overflow-y: auto;
  @media (max-width: 1000px) {
    grid-template-columns: 1fr 1fr;
  }
`;

const CURVE_PX = 34;

const Row = styled.button`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 4.875rem 2.125rem 3.25rem;
  column-gap: 0.375rem;
  align-items: center;
  height: 1.5625rem;
  contain: strict; /* a new figure in one row must not lay out the others */
  padding: 0 0.625rem 0 0.875rem;
  text-align: left;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
  white-space: nowrap;
  &:hover {
    background: var(--sheet);
  }
  &[aria-pressed="true"] {
    background: var(--accent-soft);
    box-shadow: inset 4px 0 var(--accent);
  }
  .name {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  .value {
    font-weight: 600;
    text-align: right;
    contain: layout paint;
  }
  .said {
    font-size: 0.8438rem;
    color: var(--quiet);
  }
  .here {
    grid-column: 4;
    font-size: 0.8438rem;
    text-align: right;
    color: var(--quiet);
    contain: layout paint;
  }
  .unjudged {
    grid-column: span 2;
  }
  svg {
    justify-self: end;
  }
  &[data-behind="true"] {
    grid-template-columns: minmax(0, 1fr) 4.875rem 6.75rem;
    & > .said {
      display: none;
    }
  }
  .other {
    text-align: right;
  }
  ${saidBySeverity}
  @media (max-width: 1000px) {
    height: 2.75rem;
  }
`;

const Heads = styled.div`
  display: flex;
  justify-content: flex-end;
  gap: 1.125rem;
  padding: 3px 0.625rem 1px;
  font-size: 0.7812rem;
  color: var(--quiet);
  span:last-child {
    min-width: 5.5rem;
    text-align: right;
  }
  @media (max-width: 1000px) {
    grid-column: 1 / -1;
    visibility: hidden;
    height: 4px;
  }
`;

interface Shared {
  solved: Solved | null;
  units: Units;
  chosen: string | null;
  behind: Behind | null;
  onChoose: (id: string | null) => void;
}

export const Readings = memo(function Readings(props: Shared & { document: Document }) {
  const { document, ...shared } = props;
  const fresh = useIsJudged();
  return (
    <List
      id="readings"
      tabIndex={-1}
      role="group"
      aria-label="Readings"
      aria-busy={!fresh}
      data-judged={fresh ? "as drawn" : "before"}
      data-testid="readings"
    >
      <Heads aria-hidden="true">
        <span>{fresh ? "Judged" : "Judging…"}</span>
        <span>{headOf(shared)}</span>
      </Heads>
      {readingsOf(document)
        .filter(isThere(shared.solved))
        .map((reading) => (
          <OneReading key={reading.id} {...shared} reading={reading} />
        ))}
    </List>
  );
});

/** What the last column has: where the axle stands at ride a curve, elsewhere what the figure is there. */
const headOf = ({ behind, solved }: Shared): string =>
  behind ? "Behind" : isAtRide(solved) ? "Through the travel" : "Where it stands";

const isAtRide = (solved: Solved | null) => solved?.travel === 0 && solved.articulation === 0;

/** What is only judged over the whole cycle is left out where this layout has no such figure. */
const isThere = (solved: Solved | null) => (reading: Reading) =>
  reading.column !== null || !solved || judged(solved.answer, reading.id) !== undefined;

function OneReading(props: Shared & { reading: Reading }) {
  const { reading, solved, units, behind } = props;
  const chosen = props.chosen === reading.id;
  const finding = solved ? judged(solved.answer, reading.id) : undefined;
  return (
    <Row
      type="button"
      aria-pressed={chosen}
      data-reading={reading.id}
      data-behind={behind?.answer !== undefined}
      onClick={() => props.onChoose(chosen ? null : reading.id)}
    >
      <span className="name">{reading.name}</span>
      {finding ? (
        <>
          <span className="value">{judgedWords(finding, reading, units)}</span>
          <span className="said" data-severity={finding.severity}>
            {verdictOf(finding)}
          </span>
        </>
      ) : (
        <span className="unjudged">{solved ? "" : "…"}</span>
      )}
      {behind?.answer ? <Other {...{ reading, units }} answer={behind.answer} /> : <Here {...props} />}
    </Row>
  );
}

/** What was judged: of a figure that does not exist there, why it has no value. */
const judgedWords = (finding: Finding, reading: Reading, units: Units): string =>
  finding.value === null && reading.id === "ic_length"
    ? "far away"
    : show(finding.value, reading.quantity, units);

/** Without the unit of a length: it stands beside what was judged. */
const hereWords = (value: number | null, { quantity }: Reading, units: Units): string => {
  const said = show(value, quantity, units);
  return quantity === "length" ? said.replace(/ (in|mm)$/, "") : said;
};

/** The small curve, and the value at the scrubber: what the eye follows while the axle moves, judged or not. */
function Here({ reading, solved, units }: Shared & { reading: Reading }) {
  const finding = solved ? judged(solved.answer, reading.id) : undefined;
  if (!solved || reading.column === null) return <span className="here" />;
  const value = valueOf(reading, solved.answer);
  const sweep = solved.answer[reading.sweep];
  const text = !solved.answer.here.reached[0]
    ? "not reached"
    : reading.id === "ic_length" && value === null
      ? "far away"
      : hereWords(value, reading, units);
  if (!isAtRide(solved)) return <span className="here">{text}</span>;
  return (
    <>
      <span className="here" hidden>
        {text}
      </span>
      <Curve
        along={sweep.columns[reading.sweep === "heave" ? "travel" : "articulation"] ?? []}
        values={sweep.columns[reading.column] ?? []}
        ghost={null}
        band={bandOnCurve(reading, finding?.low ?? null, finding?.high ?? null)}
        here={reading.sweep === "heave" ? solved.travel : solved.articulation}
        hereValue={value}
        least={LEAST[reading.quantity]}
        width={CURVE_PX}
        height={22}
      />
    </>
  );
}

/** The design behind, judged by the same bands: its value and its verdict. */
function Other({ reading, answer, units }: { reading: Reading; answer: CycleAnswer; units: Units }) {
  const finding = judged(answer, reading.id);
  return finding ? (
    <span className="other">
      {judgedWords(finding, reading, units)}{" "}
      <span className="said" data-severity={finding.severity}>
        {verdictOf(finding)}
      </span>
    </span>
  ) : (
    <span className="other" />
  );
}

/** A band of values; for what is judged by its range, as much room as the range may take about ride. */
function bandOnCurve(
  reading: Reading,
  low: number | null,
  high: number | null,
): [number | null, number | null] | null {
  if (low === null && high === null) return null;
  return reading.ranged && high !== null ? [-high / 2, high / 2] : [low, high];
}
