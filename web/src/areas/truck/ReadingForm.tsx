/** Taking a reading: what of, with what, how it was zeroed, and what it said. */

import { type ReactNode, type SubmitEvent, useState } from "react";
import styled from "styled-components";

import { useDraft } from "../../state/drafts";
import { usePreferences } from "../../state/preferences";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Choice, Trouble, Typed } from "../../ui/controls";
import { readLength, type Units } from "../../units/tape";
import { OffTheBench } from "../../panels/OffTheBench";
import { askedOf } from "./bench";
import { freeId } from "../../document/ids";
import { textField } from "../../ui/field";
import {
  FACES, HUBS, KINDS, POINTS, type Reading, readingOf, SHAFTS, START, type Taking, takingOf, TOOLS, ZEROS,
} from "./reading"; // prettier-ignore

export const Form = styled.form`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: end;
  padding: 0.5rem 0;
  label {
    display: grid;
    font-size: 0.875rem;
    color: var(--quiet);
  }
  input {
    ${textField}
    width: 9.5rem;
    font-size: 1rem;
  }
  p {
    flex-basis: 100%;
  }
`;

interface Given {
  taking: Taking;
  put: (more: Partial<Taking>) => void;
  marks: readonly string[];
}

/** Done with a reading: with the readings as they were, where it was changed. */
type Done = (before?: readonly Reading[]) => void;

/** What is typed for a reading: a new one, or `changed`, one that is there. */
function useReading(truck: TruckDocument, units: Units, changed: Reading | null, onDone: Done) {
  const edit = useTruck((s) => s.edit);
  const was = changed && takingOf(changed, units);
  const [taking, setTaking] = useDraft(changed ? null : "reading of what", was?.taking ?? START);
  const [text, setText] = useDraft(changed ? null : "reading", was?.text ?? "");
  const { by, setBy } = usePreferences();
  const [why, setWhy] = useState<string | null>(null);
  const put = (more: Partial<Taking>) => {
    setWhy(null);
    setTaking({ ...taking, ...more });
  };
  const type = (next: string) => {
    setWhy(null);
    setText(next);
  };
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const reading = readingOf(taking, text, changed?.id ?? freeId(truck.readings), units);
    if (typeof reading === "string") {
      setWhy(reading);
      return;
    }
    const who = by.trim() === "" ? {} : { by: by.trim() };
    // what was not asked here stays with a reading that is changed: its note, its sigma
    const next = { ...kept(changed), ...reading, ...who, at: new Date().toISOString() };
    const readings = changed
      ? truck.readings.map((one) => (one.id === changed.id ? next : one))
      : [...truck.readings, next];
    if (await edit({ ...truck, readings })) {
      setText("");
      onDone(truck.readings);
    }
  };
  return { taking, text, by, setBy, why, put, type, submit };
}

const kept = (reading: Reading | null) => {
  const { note, sigma } = (reading ?? {}) as { note?: string; sigma?: number };
  return { ...(note === undefined ? {} : { note }), ...(sigma === undefined ? {} : { sigma }) };
};

const READS: Partial<Record<Taking["kind"], string>> = {
  angle: "Reads, degrees",
  output_turn: "Reads, degrees",
  scale: "Reads, weight",
};

export function ReadingForm(props: {
  truck: TruckDocument;
  units: Units;
  changed?: Reading | null;
  onDone?: Done;
}) {
  const { truck, units, changed = null, onDone = () => undefined } = props;
  const { taking, text, by, setBy, why, put, type, submit } = useReading(truck, units, changed, onDone);
  const raisedMm = raisedOf(taking, units);
  const given = { taking, put, marks: truck.marks.map((mark) => mark.id) };
  return (
    <Form
      onSubmit={(event) => void submit(event)}
      aria-label={changed ? `Change ${changed.id}` : "Take a reading"}
    >
      <Choice label="What is read" value={taking.kind} options={KINDS} onChange={(kind) => put({ kind })} />
      {parts(given, units)}
      <label>
        {READS[taking.kind] ?? "Reads"}
        <input
          value={text}
          autoComplete="off"
          spellCheck={false}
          data-reads="true"
          aria-invalid={why !== null}
          onChange={(event) => type(event.target.value)}
        />
      </label>
      <Typed words="Read by" value={by} onChange={setBy} />
      <Button type="submit" className="main">
        {changed ? "Change it" : "Take it down"}
      </Button>
      {changed && <Button onPress={() => onDone()}>Leave it as it was</Button>}
      <OffTheBench
        asked={askedOf({ ...taking, by: raisedMm === null ? "" : String(raisedMm) })}
        zero={taking.kind === "angle" ? taking.zero : null}
        units={units}
        onRead={type}
      />
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </Form>
  );
}

/** How far an end is raised, mm; null where it is not, or can't be read. */
function raisedOf({ raised, by }: Taking, units: Units): number | null {
  const mm = raised === "level" ? null : readLength(by, units);
  return typeof mm === "number" ? mm : null;
}

function parts(given: Given, units: Units): ReactNode {
  const { kind } = given.taking;
  if (kind === "angle") return <AngleParts {...given} units={units} />;
  if (kind === "scale") return <ScaleParts {...given} />;
  if (kind === "output_offset" || kind === "output_turn") return <OutputParts {...given} />;
  return <TapeParts {...given} />;
}

const named = (names: readonly string[]) => names.map((name) => [name, name] as const);

function TapeParts({ taking, put, marks }: Given) {
  const points = [...marks, ...HUBS];
  const height = taking.kind === "height";
  return (
    <>
      <Choice
        label={height ? "Point" : "From"}
        placeholder={height ? "Which point" : "From which mark"}
        value={taking.from === "" ? null : taking.from}
        options={named(points)}
        onChange={(from) => put({ from })}
      />
      {!height && (
        <Choice label="To" value={taking.to} options={named(points)} onChange={(to) => put({ to })} />
      )}
      <Choice label="With" value={taking.tool} options={TOOLS} onChange={(tool) => put({ tool })} />
    </>
  );
}

function AngleParts({ taking, put, units }: Given & { units: Units }) {
  const points = POINTS[taking.of === "case_output" ? "output" : "pinion"];
  return (
    <>
      <Choice label="Of" value={taking.of} options={SHAFTS} onChange={(of) => put({ of })} />
      <Choice
        label="How the gauge was zeroed"
        value={taking.zero}
        options={ZEROS}
        onChange={(zero) => put({ zero })}
      />
      <Choice label="Which face" value={taking.face} options={FACES} onChange={(face) => put({ face })} />
      <Choice
        label="Which way it points"
        value={taking.points}
        options={points}
        onChange={(way) => put({ points: way })}
      />
      <label>
        Axle above ride by ({units === "mm" ? "mm" : "in"})
        <input
          value={taking.travel}
          placeholder="at ride"
          autoComplete="off"
          onChange={(event) => put({ travel: event.target.value })}
        />
      </label>
    </>
  );
}

/** To which side of the centerline the output stands, or points on its way back. */
function OutputParts({ taking, put }: Given) {
  const turned = taking.kind === "output_turn";
  const way = (side: string) => (turned ? `It points ${side} on its way back` : `${side} of center`);
  return (
    <>
      <Choice
        label="To which side"
        value={taking.side === "right" ? "right" : "left"}
        options={[
          ["left", way("left")],
          ["right", way("right")],
        ]}
        onChange={(side) => put({ side })}
      />
      {!turned && (
        <Choice label="With" value={taking.tool} options={TOOLS} onChange={(tool) => put({ tool })} />
      )}
    </>
  );
}

function ScaleParts({ taking, put }: Given) {
  return (
    <>
      <Choice
        label="End"
        value={taking.end}
        options={[
          ["front", "Front"],
          ["rear", "Rear"],
        ]}
        onChange={(end) => put({ end })}
      />
      <Choice
        label="Wheel"
        value={taking.side}
        options={[
          ["left", "Left wheel"],
          ["right", "Right wheel"],
          ["both", "The whole axle"],
        ]}
        onChange={(side) => put({ side })}
      />
      <Choice
        label="Raised"
        value={taking.raised}
        options={[
          ["level", "Truck level"],
          ["front", "Front raised"],
          ["rear", "Rear raised"],
        ]}
        onChange={(raised) => put({ raised })}
      />
      {taking.raised !== "level" && (
        <Typed words="Raised by, at the axle’s center" value={taking.by} onChange={(by) => put({ by })} />
      )}
    </>
  );
}
