/** The truck that both axles share: every figure that verdicts rest on, and where each comes from. */

import { useRef, useState } from "react";
import styled from "styled-components";

import type { Schemas } from "../api/client";
import { readTruck, showTruck } from "../figures/truck";
import { capital } from "../document/parts";
import { Button, Choice } from "../ui/controls";
import type { Units } from "../units/tape";
import { RadiusAsk, radiusEnd } from "../panels/RadiusAsk";
import { type TruckDocument, useTruck } from "../state/truck";
import { textField } from "../ui/field";

/** Figures to set, a row each, with where each comes from. */
export const TableOfFigures = styled.div`
  display: grid;
  gap: 4px;
  max-height: 66vh;
  overflow-y: auto;
  label {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 9em;
    gap: 0.625rem;
    align-items: center;
  }
  .row {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 9em;
    gap: 0.625rem;
    align-items: center;
    border-bottom: 1px solid var(--hair);
    padding: 2px 0;
  }
  input {
    ${textField}
    min-width: 0;
  }
  input[aria-invalid="true"] {
    border: 2px solid var(--stop);
  }
  .why {
    grid-column: 1 / -1;
    color: var(--stop);
    font-size: 0.875rem;
  }
`;

type Figure = Schemas["TruckFigure"];
export type Source = "measured" | "catalog" | "guessed";
const SOURCES: [Source, string][] = [
  ["measured", "Measured"],
  ["catalog", "Catalog"],
  ["guessed", "Guessed"],
];

export const valueAt = (document: TruckDocument, path: string): unknown =>
  path
    .split(".")
    .reduce<unknown>(
      (value, step) => (value as Record<string, unknown> | null | undefined)?.[step],
      document,
    );

/** Where a figure comes from: its own path's source, or that of what it is part of; what nobody said is guessed. */
export function sourceOf(document: TruckDocument, path: string): Source {
  const sources = document.sources ?? {};
  return sources[path] ?? sources[path.split(".")[0]!] ?? "guessed";
}

export function withFigure(document: TruckDocument, path: string, value: number): TruckDocument {
  const put = (at: unknown, [head, ...rest]: string[]): unknown =>
    head === undefined
      ? value
      : { ...(at as object), [head]: put((at as Record<string, unknown>)[head], rest) };
  return put(document, path.split(".")) as TruckDocument;
}

export const withSource = (document: TruckDocument, path: string, source: Source): TruckDocument => ({
  ...document,
  sources: { ...document.sources, [path]: source },
});

/** A truck whose rails nobody said: a guess to start from, to be measured. */
export function NoRails({ document }: { document: TruckDocument }) {
  const edit = useTruck((s) => s.edit);
  const { tire_radius_loaded: radius } = document.axles.rear;
  const guessed = { ...GUESSED_RAILS, underside: Math.round(radius + RAILS_OVER_MM) };
  return (
    <div className="row">
      <span>The frame rails are not known.</span>
      <Button onPress={() => void edit({ ...document, rails: guessed })}>Guess them</Button>
    </div>
  );
}

const GUESSED_RAILS = { outside_width: 860, depth: 140, flange: 60 };
const RAILS_OVER_MM = 150;

interface Shown {
  figure: Figure;
  document: TruckDocument;
  units: Units;
}

/** What is typed for a figure: taken, or refused in words; of a loaded radius what was meant is asked first. */
export function useTyping({ figure, document, units }: Shown) {
  const stands = showTruck(valueAt(document, figure.path), figure.unit, units);
  const [text, setText] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const [asked, setAsked] = useState<number | null>(null);
  const warned = useRef(false);
  const edit = useTruck((s) => s.edit);
  const end = radiusEnd(figure.path);
  const type = (next: string | null) => {
    setWhy(null);
    setText(next);
    warned.current = false;
  };
  /** Whether nothing is open any more: what was typed is taken, or was as it stands. */
  const take = (): boolean => {
    if (asked !== null) return false;
    if (text === null || text === stands) {
      type(null);
      return true;
    }
    const value = readTruck(text, figure.unit, units);
    if (typeof value === "string") {
      setWhy(value);
      return false;
    }
    type(null);
    if (end) setAsked(value);
    else void edit(withFigure(document, figure.path, value));
    return !end;
  };
  /** The same before the field goes away; what can't be read is let go only once its reason has been said. */
  const leave = (): boolean => {
    if (take()) return true;
    if (asked !== null || !warned.current) {
      warned.current = true;
      return false;
    }
    type(null);
    return true;
  };
  return { stands, text, why, asked, end, take, type, leave, done: () => setAsked(null) };
}

/** One figure, set by typing, and where it comes from. */
export function FigureRow(shown: Shown) {
  return <TypedRow {...shown} typing={useTyping(shown)} />;
}

/** The same where who shows it holds what is typed. */
export function TypedRow(shown: Shown & { typing: ReturnType<typeof useTyping> }) {
  const { figure, document, units } = shown;
  const { stands, text, why, asked, end, take, type, done } = shown.typing;
  const edit = useTruck((s) => s.edit);
  const field = useRef<HTMLInputElement>(null);
  return (
    <div className="row">
      <label>
        {capital(figure.words)}
        <input
          ref={field}
          value={text ?? stands}
          spellCheck={false}
          autoComplete="off"
          data-figure={figure.path}
          aria-invalid={why !== null}
          onFocus={(event) => event.target.select()}
          onChange={(event) => type(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => {
            if (event.key === "Enter") take();
          }}
        />
      </label>
      <Choice
        label={`Where it comes from: ${figure.words}`}
        value={sourceOf(document, figure.path)}
        options={SOURCES}
        onChange={(source) => void edit(withSource(document, figure.path, source))}
      />
      {why !== null && (
        <span className="why" role="alert">
          {why} It stays at {stands}.
        </span>
      )}
      {end && asked !== null && (
        <RadiusAsk
          {...{ truck: document, end, radius: asked, units }}
          source={sourceOf(document, figure.path)}
          onDone={() => {
            done();
            field.current?.focus();
          }}
        />
      )}
    </div>
  );
}
