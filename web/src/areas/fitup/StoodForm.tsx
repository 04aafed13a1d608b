/** Taking a reading on its weight, or at an end of travel: what, of what, which way it was read, and what it says. */

import { type SubmitEvent, useState } from "react";

import { type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { freeId } from "../../document/ids";
import { partWords } from "../../panels/Gaps";
import { EditorBox } from "../../panels/EditorBox";
import { OffTheBench } from "../../panels/OffTheBench";
import { useAsked } from "../../solve/asking";
import { useDraft } from "../../state/drafts";
import type { Record_ } from "../../state/fitUp";
import { usePreferences } from "../../state/preferences";
import {
  ENDS_HIGH,
  FIRST,
  pairOf,
  STANCES,
  type Standing,
  type Stood,
  STOOD_KINDS,
  stoodOf,
} from "../../state/stood";
import { Button, Choice, Entries, Trouble, Typed } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { barsOf, strutsOf } from "./said";

interface Of {
  document: Document;
  record: Record_;
  units: Units;
  edit: (stood: Stood[]) => Promise<boolean>;
}

export function StoodForm({ document, record, units, edit }: Of) {
  const [standing, setStanding] = useState(FIRST);
  const [text, setText] = useDraft("reading on its weight", "");
  const [why, setWhy] = useState<string | null>(null);
  const { by, setBy } = usePreferences();
  const set = (next: Partial<Standing>) => setStanding({ ...standing, ...next });
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const reading = stoodOf(standing, text, freeId(record.stood, "w"), units);
    setWhy(typeof reading === "string" ? reading : null);
    if (typeof reading === "string") return;
    const taken = { ...reading, by: by.trim(), at: new Date().toISOString() };
    if (await edit([...record.stood, taken])) setText("");
  };
  return (
    <EditorBox>
      <div className="row">
        <Choice label="How it stands" value={standing.stance} options={STANCES} onChange={(stance) => set({ stance })} />
        <Choice label="What is read" value={standing.kind} options={STOOD_KINDS} onChange={(kind) => set({ kind, of: "" })} />
        <What {...{ document, standing, set }} />
      </div>
      <Entries aria-label="Take a reading on its weight" onSubmit={(event) => void submit(event)}>
        <Typed words={standing.kind === "pinion" || standing.kind === "bar" ? "Degrees" : "Reads"} value={text} onChange={setText} />
        <Typed words="Who" value={by} onChange={setBy} />
        <Button type="submit" className="main">
          Take it
        </Button>
      </Entries>
      {standing.kind === "pinion" && (
        <OffTheBench
          asked={{ instrument: "gauge", what: `${document.axle.end}_pinion ${standing.face}` }}
          zero={standing.zero}
          units={units}
          onRead={setText}
        />
      )}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  ); // prettier-ignore
}

interface OfWhat {
  document: Document;
  standing: Standing;
  set: (next: Partial<Standing>) => void;
}

function What({ document, standing, set }: OfWhat) {
  const { kind, of } = standing;
  if (kind === "gap") return <Pair {...{ document, standing, set }} />;
  if (kind === "pinion")
    return (
      <>
        <Choice label="Gauge" value={standing.zero} options={ZEROS} onChange={(zero) => set({ zero })} />
        <Choice label="Held" value={standing.face} options={FACES} onChange={(face) => set({ face })} />
        <Choice
          label="Which way"
          value={standing.points}
          options={POINTS}
          onChange={(points) => set({ points })}
        />
      </>
    );
  const options = kind === "strut" ? strutsOf(document) : barsOf(document);
  return (
    <>
      <Choice label="Of" placeholder="Of which" value={of || null} options={options} onChange={(next) => set({ of: next })} />
      {kind === "bar" && (
        <Choice label="Higher" value={standing.high} options={ENDS_HIGH} onChange={(high) => set({ high })} />
      )}
    </>
  ); // prettier-ignore
}

const ZEROS = [["level", "Zeroed level"], ["plumb", "Zeroed upright"]] as const; // prettier-ignore
const FACES = [["along", "Along the shaft"], ["square", "On a face square to it"]] as const; // prettier-ignore
const POINTS = [["up", "Its nose points up"], ["down", "Its nose points down"]] as const; // prettier-ignore

/** The pairs whose gap is looked at, the least to spare first. */
function Pair({ document, standing, set }: OfWhat) {
  const key = JSON.stringify(document);
  const asked = useAsked<Schemas["Gap"][]>(
    key,
    (signal) => server.gaps({ document, travel: 0, articulation: 0 }, signal),
    60,
  );
  if (!asked.data) return <p role="status">{asked.state === "failed" ? asked.why : "Looking for pairs…"}</p>;
  const options = asked.data.map(({ a, b }): [string, string] => [
    pairOf(a, b),
    `${partWords(document, a)} and ${partWords(document, b).toLowerCase()}`,
  ]);
  return (
    <Choice
      label="Between"
      placeholder="Between which"
      value={standing.pair || null}
      options={options}
      onChange={(pair) => set({ pair })}
    />
  );
}
