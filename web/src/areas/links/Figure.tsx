/** One coordinate of the chosen mount: as a tape reads it, typed, understood, asked about, locked. */

import { memo, useEffect, useRef, useState } from "react";
import styled from "styled-components";

import {
  AXES,
  type Axis,
  type Document,
  mountLabel,
  type Point,
  type Spot,
  spotsOf,
  withLock,
} from "../../document/document";
import { useDesign } from "../../state/design";
import { place, type Question } from "../../state/placing";
import { typing, useSaid } from "../../state/said";
import { Button, Toggle } from "../../ui/controls";
import { length, type Units } from "../../units/tape";
import { type Field, readPlace, sideWords } from "./place";

const Row = styled.div`
  display: grid;
  grid-template-columns: 8em minmax(0, 1fr) 4.625rem;
  align-items: center;
  gap: 0.625rem;
  input {
    height: 2.25rem;
    padding: 0 0.625rem;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
    font-size: 1.0625rem;
    font-weight: 500;
    width: 100%;
  }
  input[aria-invalid="true"] {
    border: 2px solid var(--stop);
  }
  .as {
    grid-column: 2 / -1;
    font-size: 0.875rem;
    color: var(--quiet);
  }
  .why {
    grid-column: 2 / -1;
    color: var(--stop);
    font-size: 0.875rem;
  }
  .asks {
    grid-column: 1 / -1;
    display: flex;
    flex-wrap: wrap;
    gap: 0.375rem;
    align-items: center;
    font-size: 0.875rem;
  }
`;

/** Edit the document as it stands, about one of its mounts. */
export function editMount(key: string, change: (document: Document, mount: Spot) => Document) {
  const { document, edit } = useDesign.getState();
  const mount = document && spotsOf(document).find((m) => m.key === key);
  if (document && mount) edit(change(document, mount));
}

const Lock = memo(function Lock(props: { mount: string; axis: Axis; name: string; locked: boolean }) {
  const { mount, axis, locked } = props;
  return (
    <Toggle
      aria-label={`${locked ? "Locked" : "Lock"}: ${props.name}`}
      isSelected={locked}
      onChange={(on) => editMount(mount, (document, m) => withLock(document, m, axis, on))}
    >
      {locked ? "Locked" : "Lock"}
    </Toggle>
  );
});

interface FigureProps {
  field: Field;
  mount: Spot;
  units: Units;
  locked: boolean;
}

/** What is typed of one coordinate, how it is understood, and taking or dropping it. */
function useTyped({ field, mount, units }: FigureProps) {
  const [text, setText] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const [asks, setAsks] = useState<Question | null>(null);
  const at = mount.at[field.axis];
  const understood = text === null ? null : readPlace(text, field, at, units);
  const drop = () => {
    typing(null);
    setText(null);
    setWhy(null);
    setAsks(null);
  };
  /** `leaving`: the field is about to go, so what it has to say is said elsewhere. */
  const take = (given: string | null, leaving: boolean) => {
    if (given === null) return;
    const to = readPlace(given, field, at, units);
    const { say } = useSaid.getState();
    const which = `${mountLabel(mount)}, ${field.name(at).toLowerCase()}`;
    if (typeof to === "string") {
      setWhy(to);
      if (leaving)
        say(
          `“${given}” for ${which} was not taken: ${to} It stays at ${length(field.sign(at) * at, units)}.`,
        );
      return;
    }
    const asked = place(mount.key, mount.at.map((v, i) => (i === field.axis ? to : v)) as Point);
    drop();
    if (asked && leaving) say(`“${given}” for ${which}: ${asked.words}`, asked.offers);
    else setAsks(asked);
  };
  const put = (typed: string) => {
    setWhy(null);
    setAsks(null);
    setText(typed);
  };
  useEffect(() => {
    if (text !== null) typing(() => take(text, true));
  });
  return {
    text,
    understood,
    why,
    asks,
    put,
    take: () => take(text, false),
    drop,
    answer: () => setAsks(null),
  };
}

export function Figure(props: FigureProps) {
  const { field, mount, units, locked } = props;
  const { text, understood, why, asks, put, take, drop, answer } = useTyped(props);
  const input = useRef<HTMLInputElement>(null);
  const at = mount.at[field.axis];
  const stands = length(field.sign(at) * at, units);
  const name = field.name(at);
  return (
    <Row>
      <label htmlFor={`mount-${field.axis}`}>{name}</label>
      <input
        ref={input}
        id={`mount-${field.axis}`}
        readOnly={locked}
        value={text ?? stands}
        inputMode="text"
        spellCheck={false}
        autoComplete="off"
        data-axis={AXES[field.axis]}
        data-typed={text !== null}
        aria-invalid={why !== null}
        onFocus={(event) => event.target.select()}
        onChange={(event) => put(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Escape") drop();
          if (event.key !== "Enter") return;
          take();
          requestAnimationFrame(() => input.current?.select()); // the next figure replaces this one
        }}
      />
      <Lock mount={mount.key} axis={AXES[field.axis]} name={name.toLowerCase()} locked={locked} />
      {text !== null && why === null && typeof understood === "number" && /[^\d\s./]/.test(text) && (
        <span className="as" role="status">
          = {length(Math.abs(understood), units)} {sideWords(field, understood)}
        </span>
      )}
      {why !== null && (
        <span className="why" role="alert">
          {why} It stays at {stands}.
        </span>
      )}
      {asks && <Asks question={asks} onAnswer={answer} />}
    </Row>
  );
}

export function Asks({ question, onAnswer }: { question: Question; onAnswer: () => void }) {
  return (
    <span className="asks" role="alert">
      {question.words}
      {question.offers.map((offer) => (
        <Button
          key={offer.words}
          onPress={() => {
            onAnswer();
            offer.act();
          }}
        >
          {offer.words}
        </Button>
      ))}
      <Button onPress={onAnswer}>Leave it</Button>
    </span>
  );
}
