/** On its weight, and held at bump and droop: how the axle stands, and each reading beside what is foretold there. */

import { type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { capital } from "../../document/parts";
import { useAsked } from "../../solve/asking";
import { recordOf, withRecord } from "../../state/fitUp";
import { STANCES, type Stood } from "../../state/stood";
import { useTruck } from "../../state/truck";
import { Button, List, Trouble } from "../../ui/controls";
import { inUnits, length, plain, type Units } from "../../units/tape";
import type { Shown } from "./FitUp";
import { stoodWords } from "./said";
import { StoodForm } from "./StoodForm";
import { ToTurn } from "./ToTurn";

type Found = Schemas["OnWeight"];
type Compared = Found["beside"][number];

export function OnWeight(shown: Shown) {
  const { document, truck, units } = shown;
  const record = recordOf(truck, document);
  const key = JSON.stringify([document, record.readings, record.pose, record.stood]);
  const asked = useAsked<Found>(key, (signal) => server.onWeight({ document, record }, signal), 60);
  const edit = (stood: Stood[]) =>
    useTruck.getState().edit(withRecord(truck, document, { ...record, stood }));
  const found = asked.data;
  return (
    <section aria-label="On its weight" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {found && <Stands {...{ found, units }} />}
      <StoodForm {...{ document, record, units, edit }} />
      {record.stood.length === 0 && (
        <p>
          Nothing was read yet. Both shocks, eye to eye, say how it stands; then the pinion, bars and gaps are held
          against what they should be at that height.
        </p>
      )}
      <List aria-label="Readings on its weight and at the ends of travel, the last first">
        {[...record.stood].reverse().map((one) => (
          <Line
            key={one.id}
            {...{ document, units }}
            reading={one}
            beside={found?.beside.find(({ reading }) => reading === one.id)}
            strange={found?.strange[one.id]}
            at={found?.stood.find(({ stance }) => stance === one.stance)}
            onPut={(next) =>
              void edit(record.stood.flatMap((other) => (other.id === one.id ? (next ? [next] : []) : [other])))
            }
          />
        ))}
      </List>
    </section>
  ); // prettier-ignore
}

/** How far up or down in the truck, in words. */
const upSaid = (mm: number, units: Units): string =>
  Math.abs(mm) < 0.8 ? "at its place" : `${length(Math.abs(mm), units)} ${mm > 0 ? "up" : "down"}`;

function Stands({ found, units }: { found: Found; units: Units }) {
  return (
    <>
      {found.stood.map(({ stance, wanted, travel, left, right, level }) => (
        <p key={stance}>
          <strong>{STANCES.find(([key]) => key === stance)![1]}:</strong> left wheel {upSaid(left, units)} in the
          truck, right {upSaid(right, units)}; the axle’s center {upSaid(travel, units)}
          {stance !== "weight" && `, ${upSaid(wanted, units)} is drawn`}.
          {level && " One side alone was read: it is taken to stand level."}
        </p>
      ))}
      {found.height.length > 0 && (
        <ul aria-label="What its height points to" style={{ margin: "0.25rem 0", paddingLeft: 18 }}>
          {found.height.map((words) => (
            <li key={words}>{inUnits(words, units)}</li>
          ))}
        </ul>
      )}
    </>
  ); // prettier-ignore
}

/** A figure with its side: degrees of a pinion by where its nose points, of a bar by its higher end. */
function figureSaid(kind: Stood["kind"], value: number, units: Units): string {
  if (kind === "strut" || kind === "gap") return length(value, units);
  const size = `${plain(Math.abs(value), 1)}°`;
  if (Math.abs(value) < 0.05) return size;
  return kind === "pinion"
    ? `${size} nose ${value > 0 ? "up" : "down"}`
    : `${size}, higher at the ${value > 0 ? "frame" : "axle"}`;
}

interface OfLine {
  document: Document;
  units: Units;
  reading: Stood;
  beside: Compared | undefined;
  strange: string | undefined;
  /** How the axle stood for it, where that is known. */
  at: Found["stood"][number] | undefined;
  onPut: (next: Stood | null) => void;
}

function Line({ document, units, reading, beside, strange, at, onPut }: OfLine) {
  const name = stoodWords(document, reading);
  const stance = STANCES.find(([key]) => key === reading.stance)![1].toLowerCase();
  const said = (value: number) => figureSaid(reading.kind, value, units);
  const raw =
    "unit" in reading
      ? length(reading.unit === "in" ? reading.value * 25.4 : reading.value, units)
      : `${plain(reading.value, 1)}°`;
  const full = `${capital(name)}, ${stance}`;
  return (
    <li style={{ borderBottom: "1px solid var(--hair)", padding: "0.25rem 0" }} data-stood={reading.id}>
      <div>
        {beside?.differs && <span aria-hidden="true">■ </span>}
        {full}:{" "}
        <strong style={{ textDecoration: reading.left_out ? "line-through" : "none" }}>
          {beside ? said(beside.read) : raw}
        </strong>
        {reading.left_out && " (left out)"}
        {beside?.drawn != null && `; ${said(beside.drawn)} as drawn`}
        {beside?.built != null && `, ${said(beside.built)} as built`}
        {beside && (beside.differs ? ": it differs." : ": as foretold.")}
      </div>
      {beside?.points.map((words) => <p key={words}>{inUnits(words, units)}</p>)}
      {reading.kind === "pinion" && at && <ToTurn {...{ document, reading, units }} travel={at.travel} />}
      {strange && <p>Not used: {strange}.</p>}
      <div style={{ display: "flex", gap: "0.375rem" }}>
        <Button aria-label={`${reading.left_out ? "Use" : "Leave out"}: ${full}`} onPress={() => onPut({ ...reading, left_out: !reading.left_out })}>
          {reading.left_out ? "Use it" : "Leave out"}
        </Button>
        <Button aria-label={`Delete: ${full}`} onPress={() => onPut(null)}>Delete</Button>
      </div>
    </li>
  ); // prettier-ignore
}
