/** The readings beside the drawing: value at the scrubber, range over the travel, small curve. */

import { memo } from "react";
import styled from "styled-components";

import type { Document } from "../../design/document";
import type { Solved } from "../../solve/solver";
import type { Units } from "../../units/tape";
import { Curve } from "./Curve";
import { rangeOf, type Reading, type ReadingId, readingsOf, show } from "./readings";

const List = styled.div`
  display: grid;
  grid-auto-rows: minmax(0, 1fr);
  height: 100%;
  @media (max-width: 1000px) {
    grid-template-columns: 1fr 1fr;
    grid-auto-rows: auto;
  }
`;

const Row = styled.button`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 104px;
  grid-template-rows: auto auto 1fr;
  column-gap: 12px;
  align-content: center;
  padding: 5px 14px;
  min-height: 60px;
  text-align: left;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
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
    font-size: 18px;
    font-weight: 600;
    white-space: nowrap;
  }
  .wide {
    font-size: 16px;
  }
  .range {
    font-size: 13px;
    color: var(--quiet);
    white-space: nowrap;
  }
  .plot {
    grid-column: 2;
    grid-row: 1 / span 3;
    align-self: center;
  }
  .across {
    grid-column: 1 / -1;
  }
`;

export const Readings = memo(function Readings(props: {
  document: Document;
  solved: Solved | null;
  units: Units;
  chosen: ReadingId | null;
  onChoose: (id: ReadingId | null) => void;
}) {
  return (
    <List role="group" aria-label="Readings" data-testid="readings">
      {readingsOf(props.document).map((reading) => (
        <OneReading key={reading.id} {...props} reading={reading} />
      ))}
    </List>
  );
});

function OneReading(props: {
  reading: Reading;
  solved: Solved | null;
  units: Units;
  chosen: ReadingId | null;
  onChoose: (id: ReadingId | null) => void;
}) {
  const { reading, solved, units } = props;
  const chosen = props.chosen === reading.id;
  const value = solved
    ? solved.answer.here.reached[0]
      ? reading.value(solved.answer, units)
      : "not reached"
    : "…";
  const range = solved && reading.column ? rangeOf(solved.answer.heave, reading.column) : null;
  const two = reading.id === "instant_center" || reading.id === "separation";
  return (
    <Row
      type="button"
      aria-pressed={chosen}
      data-reading={reading.id}
      onClick={() => props.onChoose(chosen ? null : reading.id)}
    >
      <span className="name">{reading.name}</span>
      <span className={two ? "value wide across" : "value"}>{value}</span>
      {range && !two && (
        <span className="range">
          {show(range[0], reading.quantity, units)} to {show(range[1], reading.quantity, units)}
        </span>
      )}
      {solved && reading.column && (
        <span className={two ? "across" : "plot"}>
          <Curve
            along={solved.answer.heave.columns["travel"] ?? []}
            values={solved.answer.heave.columns[reading.column] ?? []}
            here={solved.travel}
            hereValue={
              solved.articulation === 0 ? (solved.answer.here.columns[reading.column]?.[0] ?? null) : null
            }
            width={two ? 256 : 104}
            height={two ? 22 : 38}
          />
        </span>
      )}
    </Row>
  );
}
