/** The driveshaft: its kind and sizes, what it does through the cycle, and the pinion turned by what a gauge read. */

import { type SubmitEvent, useState } from "react";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { capital } from "../../document/parts";
import { type Field, number, numeric } from "../../document/typed";
import { preview, takePreview } from "../../state/behind";
import { edited, useTaking } from "../../state/room";
import { RunFigures } from "../../panels/RunFigures";
import { RunFindings } from "../../panels/RunFindings";
import { Sizes } from "../../panels/Sizes";
import { useTruck } from "../../state/truck";
import { useAsked } from "../../solve/asking";
import { Button, Choice, Entries, Trouble, Typed } from "../../ui/controls";
import { length, lengthFigure, plain, readLength, type Units } from "../../units/tape";
import type { Shown } from "./Cycle";
import { OnOwnFloor } from "./OnOwnFloor";

type Shaft = NonNullable<Document["driveshaft"]>;

const KINDS = [
  ["two_joints", "A joint at each end"],
  ["double_at_case", "Double joint at the case"],
] as const;

/** A shaft where one mostly runs: to be dragged to where the case stands. */
function newShaft(document: Document): Shaft {
  const [x, y, z] = document.axle.pinion.joint;
  const ahead = document.axle.end === "rear" ? 1 : -1;
  return {
    kind: "two_joints",
    case: { joint: [x + ahead * 700, y, z + 60], angle: document.axle.pinion.angle, turn: 0 },
    diameter: 63.5,
    slip: { in: 38, out: 38 },
    joint_limit: { pinion: 25, case: 25 },
  };
}

/** How far the output is turned in plan; a file may say nothing of it. */
const turnOf = (shaft: Shaft): number => (shaft.case as Partial<Shaft["case"]>).turn ?? 0;

function fieldsOf(shaft: Shaft, units: Units): Field<Shaft>[] {
  const mm = (text: string) => readLength(text, units);
  const fig = (v: number) => lengthFigure(v, units);
  return [
    numeric("angle", "Output points down, degrees", plain(shaft.case.angle, 1), number, (s, v) => ({ ...s, case: { ...s.case, angle: v } })), // prettier-ignore
    numeric("turn", "… turned to the left in plan, degrees", plain(turnOf(shaft), 1), number, (s, v) => ({ ...s, case: { ...s.case, turn: v } })), // prettier-ignore
    numeric("diameter", "Tube’s diameter", fig(shaft.diameter), mm, (s, v) => ({ ...s, diameter: v })),
    numeric("in", "Slip, pressing in", fig(shaft.slip.in), mm, (s, v) => ({
      ...s,
      slip: { ...s.slip, in: v },
    })),
    numeric("out", "Slip, drawing out", fig(shaft.slip.out), mm, (s, v) => ({ ...s, slip: { ...s.slip, out: v } })), // prettier-ignore
    numeric("pinion", "Joint at the pinion turns, degrees", plain(shaft.joint_limit.pinion, 1), number, (s, v) => ({ ...s, joint_limit: { ...s.joint_limit, pinion: v } })), // prettier-ignore
    numeric("case", "Joint at the case turns, degrees", plain(shaft.joint_limit.case, 1), number, (s, v) => ({ ...s, joint_limit: { ...s.joint_limit, case: v } })), // prettier-ignore
  ];
}

export function Driveline(shown: Shown) {
  const { document, units, solved } = shown;
  const shaft = document.driveshaft ?? null;
  const { why, setWhy, take } = useTaking();
  return (
    <OnOwnFloor
      {...shown}
      help="Drag the joint at the case in any view, as mounts are in Links; the pinion’s joint is the axle’s."
    >
      {!shaft && (
        <>
          <p>No driveshaft yet: nothing is said of its joints, its slip or what it hits.</p>
          <div className="line">
            <Button className="main" onPress={() => edited((now) => ({ ...now, driveshaft: newShaft(now) }))}>
              Add a driveshaft
            </Button>
          </div>
        </>
      )}
      {shaft && (
        <>
          <Choice
            label="Kind of shaft"
            value={shaft.kind}
            options={KINDS}
            onChange={(kind) => void take((now) => ({ ...now, driveshaft: { ...now.driveshaft!, kind } }))}
          />
          <RunFigures of="shaft" part="shaft" {...{ solved, units }} />
          <RunFindings {...{ document, units, solved }} of={["shaft"]} />
          <TurnBy key={document.name} {...{ document, units }} />
          <h2>Its sizes</h2>
          <Sizes
            of="driveshaft"
            fields={fieldsOf(shaft, units)}
            part={shaft}
            onWhy={setWhy}
            onTake={(next) => take((now) => ({ ...now, driveshaft: next }))}
          />
          <div className="line">
            <Button onPress={() => edited((now) => ({ ...now, driveshaft: null }))}>Leave it out</Button>
          </div>
        </>
      )}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </OnOwnFloor>
  );
}

const ZEROS = [
  ["level along", "Zeroed level, on a face along the shaft"],
  ["plumb square", "Zeroed plumb, on a face square to it"],
  ["level square", "Zeroed level, on a face square to it"],
  ["plumb along", "Zeroed plumb, on a face along the shaft"],
] as const;

interface Answer {
  said: Schemas["TurnOut"];
  how: Schemas["TurnIn"]["how"];
}

const WAYS = [
  ["brackets", "Housing in its brackets"],
  ["links", "Housing with brackets, by the links"],
] as const;

function useTurn(document: Document) {
  const [texts, setTexts] = useState({ value: "", pitch: "0", soft: "1.5" });
  const [zeroed, setZeroed] = useState<(typeof ZEROS)[number][0]>("level along");
  const [how, setHow] = useState<Schemas["TurnIn"]["how"]>("brackets");
  const [points, setPoints] = useState<"up" | "down">("up");
  const [said, setSaid] = useState<Answer | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const [value, pitch, soft] = [texts.value, texts.pitch, texts.soft].map(number);
    const bad = [value, pitch, soft].find((one) => typeof one === "string");
    if (bad !== undefined) {
      setWhy(bad);
      return;
    }
    const [zero, face] = zeroed.split(" ") as ["level" | "plumb", "along" | "square"];
    const answer = await server
      .turnPinion({
        document,
        value: value as number,
        frame_pitch: pitch as number,
        soft: soft as number,
        zero,
        face,
        points,
        how,
        travel: 0,
      }) // prettier-ignore
      .catch(() => null);
    setWhy(answer?.data ? null : answer ? reasonOf(answer.error) : NO_SERVER);
    setSaid(answer?.data ? { said: answer.data, how } : null);
  };
  /** What the truck's readings came to, on the frame's axes at ride. */
  const measured = (value: number) => {
    setTexts({ ...texts, value: plain(Math.abs(value), 1), pitch: "0" });
    setZeroed("level along");
    setPoints(value < 0 ? "down" : "up");
  };
  return { texts, setTexts, zeroed, setZeroed, how, setHow, points, setPoints, said, why, submit, measured };
}

/** What was read on the gauge gives how far to turn, which way, and what all angles will then be. */
function TurnBy({ document, units }: Omit<Shown, "solved">) {
  const turn = useTurn(document);
  const { texts, setTexts, zeroed, setZeroed, how, setHow, points, setPoints, said, why, submit } = turn;
  const typed = (key: keyof typeof texts, words: string) => (
    <Typed words={words} value={texts[key]} onChange={(text) => setTexts({ ...texts, [key]: text })} />
  );
  return (
    <section aria-label="Turn it by">
      <h2>Turn it by</h2>
      <Measured {...{ document, units }} onTake={turn.measured} />
      <Entries aria-label="Read on the gauge" onSubmit={(event) => void submit(event)}>
        {typed("value", "Read at the pinion, degrees")}
        {typed("pitch", "Frame stands nose up, degrees")}
        {typed("soft", "Set lower for soft mounts, degrees")}
        <Choice
          label="Its nose points"
          value={points}
          options={[
            ["up", "Nose up"],
            ["down", "Nose down"],
          ]}
          onChange={setPoints}
        />
        <div style={{ gridColumn: "1 / -1" }}>
          <Choice label="How the gauge was zeroed" value={zeroed} options={ZEROS} onChange={setZeroed} />
          <Choice label="What is turned" value={how} options={WAYS} onChange={setHow} />
        </div>
        <Button type="submit" isDisabled={texts.value.trim() === ""}>
          What to turn
        </Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {said && <Turned {...said} units={units} />}
    </section>
  );
}

/** The pinion that the truck's readings give, to start from. */
function Measured({ document, units, onTake }: Omit<Shown, "solved"> & { onTake: (value: number) => void }) {
  const truck = useTruck((s) => s.truck?.document ?? null);
  const key = JSON.stringify([truck, document, units]);
  const isRead = truck?.readings.some((one) => one.kind === "angle") ?? false;
  const asked = useAsked(isRead ? key : null, (signal) =>
    server.baseline({ truck: truck!, designs: [document], units }, signal),
  );
  const own = ({ id }: { id: string }) => id === `${document.axle.end}_pinion`;
  const found = asked.data?.figures.find(own);
  const unsettled = asked.data?.unsettled.find(own);
  if (unsettled) return <p>The truck’s readings of this pinion disagree. {unsettled.why}</p>;
  if (!found) return null;
  return (
    <p>
      The truck’s readings say {plain(found.value, 1)}° nose up at ride, on the frame’s axes, give or take{" "}
      {plain(found.sigma, 1)}°. <Button onPress={() => onTake(found.value)}>Start from that</Button>
    </p>
  );
}

function Turned({ said, how, units }: Answer & { units: Units }) {
  const { aim, turned } = said;
  const take = (name: string, document: unknown) => () => {
    preview(name, document as Document);
    takePreview();
  };
  return (
    <div role="status">
      <p>
        <strong>
          {Math.abs(turned.turn) < 0.05
            ? "It stands where it should."
            : `Turn it ${plain(Math.abs(turned.turn), 1)}°, ${turned.way}.`}
        </strong>{" "}
        The shaft asks for {plain(aim.wanted, 1)}° nose up. {aim.reason} {turned.soft}
      </p>
      <p>
        The pinion’s joint goes {length(turned.moved, units)} with it, about the axle’s line.
        {how === "brackets" &&
          " Perches and brackets are cut loose and set anew, so that every mount stays where it is."}
      </p>
      <Lengths {...{ turned, units }} />
      <Before turned={turned} />
      <div className="line">
        <Button onPress={take("the pinion as read", turned.as_read)}>Set it as it was read</Button>
        <Button onPress={take("the pinion turned", turned.document)}>Set the design’s pinion so</Button>
      </div>
    </div>
  );
}

type Turn = Schemas["TurnOut"]["turned"];

/** What it takes of the links that turn it. */
function Lengths({ turned, units }: { turned: Turn; units: Units }) {
  if (turned.lengths.length === 0) return null;
  const turns = (one: Turn["lengths"][number]) =>
    one.turns === null ? " (the pitch of its ends is not known)" : `, ${plain(Math.abs(one.turns), 1)} turns`;
  return (
    <ul aria-label="Lengths of links">
      {turned.lengths.map((one) => (
        <li key={one.part}>
          {capital(one.words)}: {length(Math.abs(one.by), units)} {one.by > 0 ? "longer" : "shorter"}
          {turns(one)}
        </li>
      ))}
    </ul>
  );
}

/** All angles as read, and then. */
function Before({ turned }: { turned: Turn }) {
  const { before, after } = turned;
  const row = (words: string, was: number | null, then: number | null, digits = 1) => (
    <tr key={words}>
      <th scope="row">{words}</th>
      <td>{was === null ? "none" : `${plain(was, digits)}°`}</td>
      <td>{then === null ? "none" : `${plain(then, digits)}°`}</td>
    </tr>
  );
  return (
    <table>
      <thead>
        <tr>
          <td />
          <th scope="col">As read</th>
          <th scope="col">Then</th>
        </tr>
      </thead>
      <tbody>
        {row("Pinion, nose up", before.pinion, after.pinion)}
        {row("Joint at the case", before.case_joint, after.case_joint)}
        {row("Joint at the pinion", before.pinion_joint, after.pinion_joint)}
        {row("Difference", before.difference, after.difference)}
        {row("Unsteadiness at ride", before.unsteady, after.unsteady, 2)}
        {row("… most over the travel", before.unsteady_most, after.unsteady_most, 2)}
        {before.caster !== null && row("Caster", before.caster, after.caster)}
      </tbody>
    </table>
  );
}
