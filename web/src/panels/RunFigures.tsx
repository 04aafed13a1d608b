/** The figures of parts that run with the axle, as rows: what was judged, its verdict, its curve, its value here. */

import { memo } from "react";
import styled from "styled-components";

import type { Figure } from "../api/register";
import { Curve } from "../figures/Curve";
import { LEAST, QUANTITIES, show, verdictOf } from "../figures/readings";
import { bandOn, columnOf, foundFor, type Of, runsOf, valueIn } from "../figures/runs";
import { saidBySeverity } from "../ui/severity";
import type { Units } from "../units/tape";
import { useBehind } from "../state/behind";
import { goTo } from "../state/selection";
import type { Solved } from "../state/solver";

const List = styled.div`
  display: grid;
`;

const CURVE_PX = 40;

const Row = styled.button`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 4.5rem ${CURVE_PX}px 4rem;
  column-gap: 0.375rem;
  align-items: center;
  min-height: 2.125rem;
  padding: 1px 2px;
  text-align: left;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--hair);
  cursor: pointer;
  &:disabled {
    cursor: default;
    color: inherit;
  }
  &:hover:enabled {
    background: var(--sheet);
  }
  .name {
    color: var(--quiet);
    font-size: 0.875rem;
    line-height: 1.15;
  }
  .judged {
    text-align: right;
    line-height: 1.15;
  }
  .value {
    font-weight: 600;
    white-space: nowrap;
  }
  .said,
  .here {
    font-size: 0.8438rem;
    color: var(--quiet);
  }
  .here {
    text-align: right;
  }
  ${saidBySeverity}
  @media (max-width: 1000px) {
    min-height: 2.75rem;
  }
`;

const Heads = styled.div`
  display: flex;
  justify-content: flex-end;
  gap: 1rem;
  font-size: 0.7812rem;
  color: var(--quiet);
`;

interface Props {
  of: Of;
  part: string;
  solved: Solved | null;
  units: Units;
}

export function RunFigures({ of, part, solved, units }: Props) {
  if (!solved) return <p className="quiet">Working it out…</p>;
  const figures = runsOf(of).filter((figure) => has(solved, figure, part));
  return (
    <List role="group" aria-label="Figures">
      <Heads aria-hidden="true">
        <span>judged</span>
        <span>here</span>
      </Heads>
      {figures.map((figure) => (
        <Line key={figure.id} {...{ figure, part, solved, units }} />
      ))}
    </List>
  );
}

function has({ answer }: Solved, figure: Figure, part: string): boolean {
  const column = columnOf(figure, part);
  if (foundFor(answer, figure.id, part)) return true;
  return !figure.verdict && column !== null && column in answer.heave.columns;
}

const Line = memo(function Line(props: { figure: Figure; part: string; solved: Solved; units: Units }) {
  const { figure, part, solved, units } = props;
  const { answer } = solved;
  const behind = useBehind((s) => s.behind?.answer ?? null);
  const finding = foundFor(answer, figure.id, part);
  const column = columnOf(figure, part);
  const quantity = QUANTITIES[figure.unit];
  const values = column === null ? null : (answer.heave.columns[column] ?? null);
  const here = valueIn(answer.here, column);
  const judged = finding ? finding.value : valueIn(answer.ride, column);
  const straight = Math.abs(solved.articulation) < 0.01;
  return (
    <Row
      type="button"
      data-run={figure.id}
      disabled={!finding}
      onClick={() => finding && goTo(finding)}
      title={figure.meaning}
    >
      <span className="name">{figure.name}</span>
      <span className="judged">
        <span className="value">{show(judged, quantity, units)}</span>{" "}
        <span className="said" data-severity={finding?.severity}>
          {finding ? verdictOf(finding) : "ride"}
        </span>
      </span>
      {values ? (
        <Curve
          along={answer.heave.columns["travel"]!}
          values={values}
          ghost={(column !== null && behind?.heave.columns[column]) || null}
          band={finding ? bandOn(figure, finding) : null}
          here={solved.travel}
          hereValue={straight ? here : null}
          least={LEAST[quantity]}
          width={CURVE_PX}
          height={26}
        />
      ) : (
        <span />
      )}
      <span className="here">{column === null ? "" : show(here, quantity, units)}</span>
    </Row>
  );
});
