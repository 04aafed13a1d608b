/** The readings as they were taken, with what is wrong with each; kept, left out, or deleted. */

import { useRef, useState } from "react";
import styled from "styled-components";

import type { Schemas } from "../../api/client";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Toggle } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { type Reading, saidOf, takenBy } from "./reading";
import { ReadingForm } from "./ReadingForm";

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
  .line {
    display: flex;
    gap: 0.5rem;
  }
  .whole {
    grid-column: 1 / -1;
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

/** Its own steps back: what was changed or deleted here last, while this area is open; one after the other. */
function useUndo(truck: TruckDocument) {
  const edit = useTruck((s) => s.edit);
  const [before, setBefore] = useState<readonly Reading[][]>([]);
  const turn = useRef(Promise.resolve());
  const was = (readings: readonly Reading[]) => setBefore((earlier) => [...earlier, [...readings]]);
  const put = async (readings: Reading[]) => {
    if (await edit({ ...truck, readings })) was(truck.readings);
  };
  const undo = () => {
    const last = before.at(-1);
    if (!last) return;
    setBefore(before.slice(0, -1));
    turn.current = turn.current.then(async () => {
      const now = useTruck.getState().truck?.document; // as the step before it left it
      if (!now || !(await edit({ ...now, readings: last }))) was(last);
    });
  };
  return { put, was, undo, many: before.length };
}

export function ReadingList(props: {
  truck: TruckDocument;
  told: Schemas["BaselineOut"] | null;
  units: Units;
}) {
  const { truck, told, units } = props;
  const { put, was, undo, many } = useUndo(truck);
  const [changing, setChanging] = useState<string | null>(null);
  const readings = truck.readings;
  return (
    <>
      {readings.length === 0 && <p className="quiet">None are taken yet.</p>}
      <List aria-label="Readings">
        {readings.map((reading) => (
          <li key={reading.id} data-reading-id={reading.id}>
            {changing === reading.id ? (
              <div className="whole">
                <ReadingForm
                  {...{ truck, units }}
                  changed={reading}
                  onDone={(before) => {
                    if (before) was(before);
                    setChanging(null);
                  }}
                />
              </div>
            ) : (
              <One {...{ reading, readings, told, units, put }} onChanging={() => setChanging(reading.id)} />
            )}
          </li>
        ))}
      </List>
      {many > 0 && (
        <div className="line">
          <Button onPress={undo}>Undo the last change of a reading</Button>
        </div>
      )}
    </>
  );
}

function One(props: {
  reading: Reading;
  readings: readonly Reading[];
  told: Schemas["BaselineOut"] | null;
  units: Units;
  put: (next: Reading[]) => Promise<void>;
  onChanging: () => void;
}) {
  const { reading, readings, told, units, put, onChanging } = props;
  const { id } = reading;
  const why = told?.held_out[id] ?? told?.again[id];
  return (
    <>
      <span>
        <strong>{id}</strong> {saidOf(reading, units)}
        {takenBy(reading) !== "" && <span className="taken"> {takenBy(reading)}</span>}
      </span>
      <Toggle
        aria-label={`Leave out ${id}`}
        isSelected={isLeftOut(reading)}
        onChange={(on) => void put(readings.map((one) => (one.id === id ? { ...one, left_out: on } : one)))}
      >
        Leave out
      </Toggle>
      <span className="line">
        <Button aria-label={`Change ${id}`} onPress={onChanging}>
          Change
        </Button>
        <Button aria-label={`Delete ${id}`} onPress={() => void put(readings.filter((one) => one.id !== id))}>
          Delete
        </Button>
      </span>
      {why && <span className="why">{why}</span>}
      {told?.unused[id] && <span className="unused">{told.unused[id]}</span>}
    </>
  );
}
