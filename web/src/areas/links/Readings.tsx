/** The readings beside the drawing: value at the scrubber, small curve on its band, verdict in words. */

import { memo } from "react";
import styled from "styled-components";

import type { Document } from "../../document/document";
import type { Solved } from "../../shell/solver";
import type { Units } from "../../units/tape";
import type { Behind } from "../../shell/behind";
import { Curve } from "../../figures/Curve";
import {
  judged,
  LEAST,
  type Reading,
  readingsOf,
  show,
  showChange,
  valueOf,
  verdictOf,
} from "../../figures/readings";

const List = styled.div`
  display: grid;
  @media (max-width: 1000px) {
    grid-template-columns: 1fr 1fr;
  }
`;

const Row = styled.button`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 84px 54px 70px;
  column-gap: 6px;
  align-items: center;
  height: 28px;
  contain: strict; /* a new figure in one row must not lay out the others */
  padding: 0 10px 0 14px;
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
    font-size: 14px;
  }
  .value {
    font-weight: 600;
    text-align: right;
    contain: layout paint;
  }
  .said {
    font-size: 13.5px;
    color: var(--quiet);
  }
  .said[data-severity="stop"],
  .said[data-severity="fix"] {
    color: var(--stop);
    font-weight: 600;
  }
  .said[data-severity="consider"] {
    color: var(--ink);
    font-weight: 600;
  }
  @media (max-width: 1000px) {
    height: 40px;
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
  return (
    <List role="group" aria-label="Readings" data-testid="readings">
      {readingsOf(document)
        .filter(isThere(shared.solved))
        .map((reading) => (
          <OneReading key={reading.id} {...shared} reading={reading} />
        ))}
    </List>
  );
});

/** What is only judged over the whole cycle is left out where this layout has no such figure. */
const isThere = (solved: Solved | null) => (reading: Reading) =>
  reading.column !== null || !solved || judged(solved.answer, reading.id) !== undefined;

function OneReading(props: Shared & { reading: Reading }) {
  const { reading, solved, units, behind } = props;
  const chosen = props.chosen === reading.id;
  const finding = solved ? judged(solved.answer, reading.id) : undefined;
  const value = solved ? valueOf(reading, solved.answer) : null;
  const other = behind?.answer ? valueOf(reading, behind.answer) : null;
  const change = value !== null && other !== null ? showChange(other - value, reading.quantity, units) : null;
  const text = !solved
    ? "…"
    : reading.column !== null && !solved.answer.here.reached[0]
      ? "not reached"
      : reading.id === "ic_length" && value === null
        ? "far away"
        : show(value, reading.quantity, units);
  const sweep = solved?.answer[reading.sweep];
  return (
    <Row
      type="button"
      aria-pressed={chosen}
      data-reading={reading.id}
      onClick={() => props.onChoose(chosen ? null : reading.id)}
    >
      <span className="name">{reading.name}</span>
      <span className="value">{text}</span>
      {sweep && reading.column ? (
        <Curve
          along={sweep.columns[reading.sweep === "heave" ? "travel" : "articulation"] ?? []}
          values={sweep.columns[reading.column] ?? []}
          ghost={behind?.answer?.[reading.sweep].columns[reading.column] ?? null}
          band={bandOnCurve(reading, finding?.low ?? null, finding?.high ?? null)}
          here={reading.sweep === "heave" ? solved.travel : solved.articulation}
          hereValue={isOn(reading, solved) ? value : null}
          least={LEAST[reading.quantity]}
          width={54}
          height={22}
        />
      ) : (
        <span />
      )}
      <span className="said" data-severity={behind ? "good" : (finding?.severity ?? "good")}>
        {behind && change !== null ? change : verdictOf(finding)}
      </span>
    </Row>
  );
}

/** The straight sweep's curves hold for an axle that is not twisted, the twisted one's for one at ride height. */
const isOn = (reading: Reading, solved: Solved): boolean =>
  reading.sweep === "heave" ? solved.articulation === 0 : solved.travel === 0;

/** A band of values; for what is judged by its range, as much room as the range may take about ride. */
function bandOnCurve(
  reading: Reading,
  low: number | null,
  high: number | null,
): [number | null, number | null] | null {
  if (low === null && high === null) return null;
  return reading.ranged && high !== null ? [-high / 2, high / 2] : [low, high];
}
