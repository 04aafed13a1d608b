/** Readings taken at the truck: which to take next, what was read, and what does not fit. */

import { type SubmitEvent, useState } from "react";

import { freeId } from "../../document/ids";
import { type Document, mountLabel, spotsOf, words } from "../../document/document";
import { useDraft } from "../../state/drafts";
import { usePreferences } from "../../state/preferences";
import { useTruck } from "../../state/truck";
import { Button, Choice, Entries, List, Trouble, Typed } from "../../ui/controls";
import { EditorBox } from "../../panels/EditorBox";
import { length, plain, type Units } from "../../units/tape";
import { type FitOut, useFit } from "./built";
import type { Shown } from "./FitUp";
import { barsOf, mountName, PLACES } from "./said";
import {
  inMm,
  type Kind,
  KINDS,
  type Reading,
  readingOf,
  recordOf,
  type Taking,
  withRecord,
} from "../../state/fitUp";

const START: Taking = { kind: "height", of: "", to: "" };

export function Readings(shown: Shown) {
  const { document, truck, units } = shown;
  const { key, asked } = useFit(document, truck);
  const [taking, setTaking] = useState(START);
  const record = recordOf(truck, document);
  const edit = (readings: Reading[]) =>
    useTruck.getState().edit(withRecord(truck, document, { ...record, readings }));
  return (
    <section aria-label="Readings" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {asked.data && <Next {...{ document, units }} found={asked.data} onTake={setTaking} />}
      <Taken key={JSON.stringify(taking)} {...shown} start={taking} edit={edit} />
      {record.readings.length === 0 && <p>Nothing was read yet.</p>}
      <List aria-label="Readings, the last first">
        {[...record.readings].reverse().map((one) => (
          <Line
            key={one.id}
            {...{ document, units }}
            reading={one}
            found={asked.data}
            onPut={(next) => void edit(record.readings.flatMap((r) => (r.id === one.id ? (next ? [next] : []) : [r])))}
          />
        ))}
      </List>
    </section>
  ); // prettier-ignore
}

/** The reading that narrows most where the axle stands; or that enough is known. */
function Next(props: { document: Document; units: Units; found: FitOut; onTake: (taking: Taking) => void }) {
  const { document, units, found, onTake } = props;
  const next = found.next;
  if (!next) return <p>Nothing holds this axle.</p>;
  const within = found.corrections.within[next.figure]!;
  const size = (value: number) =>
    next.figure.startsWith("axle") ? length(value, units) : `${plain(value, value < 1 ? 2 : 1)}°`;
  const known = `${PLACES[next.figure]!.toLowerCase()} is known to ${size(next.now * within)}, one sigma; ${size(within / 2)} is wanted`;
  if (next.enough) return <p>Enough is read: {known}. Pass the gate, or check one again.</p>;
  const what = KINDS.find(([kind]) => kind === next.kind)![1].toLowerCase();
  const to = next.to ? ` to ${mountName(document, next.to)}` : "";
  return (
    <p>
      Next, what tells most: {what}, {mountName(document, next.of)}
      {to}. Now {known}.{" "}
      <Button
        onPress={() => onTake({ kind: next.kind as Kind, of: next.of, to: next.to ?? "" })}
      >
        Read that
      </Button>
    </p>
  ); // prettier-ignore
}

interface Taking_ extends Shown {
  start: Taking;
  edit: (readings: Reading[]) => Promise<boolean>;
}

function Taken({ document, truck, units, start, edit }: Taking_) {
  const record = recordOf(truck, document);
  const [taking, setTaking] = useState(start);
  const [text, setText] = useDraft("fit-up reading", "");
  const [why, setWhy] = useState<string | null>(null);
  const { by, setBy } = usePreferences();
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const reading = readingOf(taking, text, freeId(record.readings), units);
    if (typeof reading === "string") {
      setWhy(reading);
      return;
    }
    setWhy(null);
    const who = by.trim() === "" ? {} : { by: by.trim() };
    if (await edit([...record.readings, { ...reading, ...who, at: new Date().toISOString() }])) setText("");
  };
  const mounts = spotsOf(document)
    .filter(({ holds }) => holds)
    .map((spot) => [spot.name, mountLabel(spot)] as const);
  const options = taking.kind === "length" ? barsOf(document) : mounts;
  return (
    <EditorBox>
      <div className="row">
        <Choice label="What is read" value={taking.kind} options={KINDS} onChange={(kind) => setTaking({ kind, of: "", to: "" })} />
        <Choice label="Of" placeholder="Of which" value={taking.of || null} options={options} onChange={(of) => setTaking({ ...taking, of })} />
        {taking.kind === "distance" && (
          <Choice label="To" placeholder="To which" value={taking.to || null} options={mounts} onChange={(to) => setTaking({ ...taking, to })} />
        )}
      </div>
      <Entries aria-label="Take a reading" onSubmit={(event) => void submit(event)}>
        <Typed words="Reads" value={text} onChange={setText} />
        <Typed words="Who" value={by} onChange={setBy} />
        <Button type="submit" className="main">
          Take it
        </Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  ); // prettier-ignore
}

interface OfLine {
  document: Document;
  units: Units;
  reading: Reading;
  found: FitOut | null;
  onPut: (next: Reading | null) => void;
}

function Line({ document, units, reading, found, onPut }: OfLine) {
  const suspect = found?.suspects.find((one) => one.reading === reading.id);
  const strange = found?.strange[reading.id];
  const to = reading.kind === "distance" ? ` to ${mountName(document, reading.to)}` : "";
  const what = KINDS.find(([kind]) => kind === reading.kind)![1];
  const of = reading.kind === "length" ? words(reading.of) : mountName(document, reading.of);
  const said = `${what}: ${of}${to}`;
  return (
    <li style={{ borderBottom: "1px solid var(--hair)", padding: "0.25rem 0" }} data-reading={reading.id}>
      <div>
        {suspect && <span aria-hidden="true">■ </span>}
        {said}, <strong style={{ whiteSpace: "nowrap", textDecoration: reading.left_out ? "line-through" : "none" }}>{length(inMm(reading), units)}</strong>
        {reading.left_out && " (left out)"}
      </div>
      {suspect && (
        <p>
          Does not fit the others, by {plain(suspect.off, 1)} sigma{suspect.why && `: ${suspect.why}`}. Read it again.
        </p>
      )}
      {strange && <p>Not used: {strange}.</p>}
      <div style={{ display: "flex", gap: "0.375rem" }}>
        <Button aria-label={`${reading.left_out ? "Use" : "Leave out"}: ${said}`} onPress={() => onPut({ ...reading, left_out: !reading.left_out })}>
          {reading.left_out ? "Use it" : "Leave out"}
        </Button>
        <Button aria-label={`Delete: ${said}`} onPress={() => onPut(null)}>Delete</Button>
      </div>
    </li>
  ); // prettier-ignore
}
