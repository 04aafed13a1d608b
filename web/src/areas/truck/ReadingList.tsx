/** The readings as they were taken, with what is wrong with each; kept, left out, or deleted. */

import styled from "styled-components";

import type { Schemas } from "../../api/client";
import { type TruckDocument, useTruck } from "../../shell/truck";
import { Button, Toggle } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { type Reading, saidOf, takenBy } from "./reading";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 2px 0.5rem;
    align-items: center;
    border-bottom: 1px solid var(--hair);
    padding: 3px 0;
  }
  .why {
    grid-column: 1 / -1;
    color: var(--stop);
    font-size: 0.875rem;
  }
  .taken {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  .unused {
    grid-column: 1 / -1;
    color: var(--quiet);
    font-size: 0.875rem;
  }
`;

/** A reading that says nothing of it is used. */
const isLeftOut = ({ left_out }: { left_out?: boolean }): boolean => left_out ?? false;

export function ReadingList(props: {
  truck: TruckDocument;
  told: Schemas["BaselineOut"] | null;
  units: Units;
}) {
  const { truck, told, units } = props;
  const edit = useTruck((s) => s.edit);
  const readings = truck.readings;
  const put = (next: Reading[]) => void edit({ ...truck, readings: next });
  if (readings.length === 0) return <p className="quiet">None are taken yet.</p>;
  return (
    <List aria-label="Readings">
      {readings.map((reading) => (
        <li key={reading.id} data-reading-id={reading.id}>
          <span>
            <strong>{reading.id}</strong> {saidOf(reading, units)}
            {takenBy(reading) !== "" && <span className="taken"> {takenBy(reading)}</span>}
          </span>
          <Toggle
            aria-label={`Leave out ${reading.id}`}
            isSelected={isLeftOut(reading)}
            onChange={(on) =>
              put(readings.map((one) => (one.id === reading.id ? { ...one, left_out: on } : one)))
            }
          >
            Leave out
          </Toggle>
          <Button
            aria-label={`Delete ${reading.id}`}
            onPress={() => put(readings.filter((one) => one.id !== reading.id))}
          >
            Delete
          </Button>
          {told?.again[reading.id] && <span className="why">{told.again[reading.id]}</span>}
          {told?.unused[reading.id] && <span className="unused">{told.unused[reading.id]}</span>}
        </li>
      ))}
    </List>
  );
}
