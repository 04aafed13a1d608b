/** One reading: what it is, its band and where that comes from, what moves it, and what it should be. */

import { type SubmitEvent, useState } from "react";
import styled from "styled-components";

import { type Finding, server } from "../../api/client";
import { theRegister } from "../../api/register";
import { useBehind } from "../../state/behind";
import { useDraft, useTexts } from "../../state/drafts";
import { setBand, useTruck } from "../../state/truck";
import { Button, Entries, Trouble } from "../../ui/controls";
import { increment, length, type Units } from "../../units/tape";
import { useAsked } from "../../solve/asking";
import { CurveEnds } from "./CurveEnds";
import { HoldMenu } from "./HoldMenu";
import { mountWords, movesOf, wayWords } from "../../figures/moves";
import type { PaneProps } from "../../panels/FindingPane";
import { Rests } from "../../panels/Rests";
import { dropOffer, type Offered, pullOnce, takeOffer, usePulling, type Wanted } from "../../state/pulling";
import type { Solved } from "../../state/solver";
import {
  at,
  bandWords,
  judged,
  nameOf,
  type Quantity,
  quantityOf,
  rangeOf,
  readQuantity,
  type Reading,
  show,
  showChange,
} from "../../figures/readings";

const Form = styled(Entries)`
  grid-template-columns: repeat(auto-fit, minmax(5rem, 1fr));
  gap: 0.375rem;
`;

const List = styled.ol`
  margin: 0;
  padding: 0;
  list-style: none;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0.5rem;
    font-size: 0.875rem;
    border-bottom: 1px solid var(--hair);
  }
`;

export function ReadingPane(props: PaneProps & { reading: Reading }) {
  const { solved, units, reading } = props;
  const behind = useBehind((s) => s.behind);
  if (!solved) return <p className="quiet">Working it out…</p>;
  const finding = judged(solved.answer, reading.id);
  const range = reading.column ? rangeOf(solved.answer[reading.sweep], reading.column) : null;
  return (
    <>
      {reading.pulls.length > 0 && <Want {...props} solved={solved} />}
      <Movers {...props} />
      {reading.sweep === "heave" && reading.pulls.length === 1 && (
        <CurveEnds
          reading={reading}
          column={reading.pulls[0]!.column}
          solved={solved}
          behind={behind}
          units={units}
          band={finding && !reading.ranged ? [finding.low, finding.high] : null}
        />
      )}
      {finding && <Band key={finding.id} finding={finding} units={units} />}
      {finding && <Rests document={props.document} finding={finding.id} units={units} />}
      {reading.pulls.length > 0 && (
        <span className="line">
          <HoldMenu />
        </span>
      )}
      <p>
        {reading.meaning}
        {range &&
          ` Over the sweep: ${show(range[0], reading.quantity, units)} to ${show(range[1], reading.quantity, units)}.`}
      </p>
    </>
  );
}

/** What is typed of the figure's columns, and wanting it. */
function useWant(reading: Reading, solved: Solved, units: Units) {
  const [texts, setTexts] = useTexts(`Wanted ${reading.id}`);
  const [why, setWhy] = useState<string | null>(null);
  const read = (figure: string): number | string => {
    const stands = at(solved.answer.here, figure);
    const text = texts[figure]?.trim() ?? "";
    const value = text === "" ? stands : readQuantity(text, reading.quantity, units);
    if (value === null) return "It does not exist here; type both figures.";
    if (text !== "" && isNothingHere(solved, figure))
      return "It is counted from ride height, and so is nothing here: go to bump or droop and want it there.";
    return value;
  };
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const wanted: Wanted[] = [];
    for (const { column: figure } of reading.pulls) {
      const value = read(figure);
      if (typeof value === "string") {
        setWhy(value);
        return;
      }
      wanted.push({ figure, value, travel: solved.travel, articulation: solved.articulation });
    }
    setWhy(null);
    setTexts({});
    await pullOnce(wanted);
  };
  return { texts, setTexts, why, submit };
}

/** What the figure should be, at the scrubber: typed, and the free mounts follow. */
function Want({ reading, solved, units }: PaneProps & { reading: Reading; solved: Solved }) {
  const { texts, setTexts, why, submit } = useWant(reading, solved, units);
  const { of, short, trouble, offered } = usePulling();
  const own = reading.pulls.some((pull) => of.includes(pull.column));
  return (
    <Form onSubmit={(event) => void submit(event)} aria-label="What it should be here">
      {reading.pulls.map(({ column: figure, words: name }) => (
        <label key={figure}>
          {name}
          <input
            value={texts[figure] ?? ""}
            placeholder={show(at(solved.answer.here, figure), reading.quantity, units)}
            onChange={(event) => setTexts({ ...texts, [figure]: event.target.value })}
          />
        </label>
      ))}
      <Button type="submit">Get it</Button>
      {(why ?? (own && trouble)) && (
        <Trouble role="alert" style={{ gridColumn: "1 / -1" }}>
          {why ?? trouble}
        </Trouble>
      )}
      {own && short && (
        <p role="status" style={{ gridColumn: "1 / -1" }}>
          {shortWords(short, reading, units)}
        </p>
      )}
      {own && offered && <OfferedMoves {...{ offered, reading, units }} />}
    </Form>
  );
}

export function shortWords(
  short: { got: (number | null)[]; free: number; stops: string[] },
  reading: Reading,
  units: Units,
): string {
  if (short.free === 0) return "Every mount is locked: nothing is free to move.";
  const got = short.got.map((v) => show(v, reading.quantity, units)).join(", ");
  if (short.stops.length > 0)
    return `It goes only as far as ${got}: farther would make a stop of ${short.stops.map((id) => nameOf(id).toLowerCase()).join(" and ")}.`;
  return `Not within ${length(theRegister().pull_within, units)} of movement that can be built; the nearest is ${got}.`;
}

/** Whether a figure is nothing in this pose by what it is: a change since ride height, at ride height. */
const isNothingHere = ({ travel, articulation, answer }: Solved, figure: string): boolean =>
  travel === 0 && articulation === 0 && at(answer.here, figure) === 0;

/** What moves and how far, in whole increments, and what the figure is then: to take or to drop. */
function OfferedMoves({ offered, reading, units }: { offered: Offered; reading: Reading; units: Units }) {
  const { pulled, from } = offered;
  const got = pulled.got.map((value) => show(value, reading.quantity, units)).join(", ");
  return (
    <div role="status" style={{ gridColumn: "1 / -1" }}>
      <p>
        Moved by whole increments: <strong>{got}</strong>
      </p>
      <List aria-label="What moves">
        {movesOf(from, pulled.at).map(({ mounts, ways }) => (
          <li key={mounts.join()}>
            <span>{mountWords(from, mounts)}</span>
            <strong>
              {ways
                .map(({ axis, by }) => `${wayWords(from, mounts, axis, by)} ${length(Math.abs(by), units)}`)
                .join(", ")}
            </strong>
          </li>
        ))}
      </List>
      {pulled.worse.length > 0 && <p>Worse then: {pulled.worse.join("; ")}.</p>}
      <span className="line">
        <Button className="main" autoFocus onPress={takeOffer}>
          Take it
        </Button>
        <Button onPress={dropOffer}>Drop it</Button>
      </span>
    </div>
  );
}

/** The band, where it comes from, and another one for this build. */
function Band({ finding, units }: { finding: Finding; units: Units }) {
  const quantity = quantityOf(finding);
  const trouble = useTruck((s) => s.trouble);
  const own = useTruck((s) => finding.figure in (s.truck?.document.bands ?? {}));
  const [editing, setEditing] = useState(false);
  return (
    <>
      <p>
        <strong>{finding.value === null ? "" : show(finding.value, quantity, units)}</strong> judged; wanted{" "}
        {bandWords(finding.low, finding.high, quantity, units)}{" "}
        <span className="quiet">({finding.source})</span>
      </p>
      {editing ? (
        <BandForm finding={finding} units={units} onSet={() => setEditing(false)} />
      ) : (
        <span className="line">
          <Button onPress={() => setEditing(true)}>Set another band</Button>
          {own && <Button onPress={() => void setBand(finding.figure, null)}>House value again</Button>}
        </span>
      )}
      {trouble && <Trouble role="alert">{trouble}</Trouble>}
    </>
  );
}

/** Both ends of another band; an empty one is open. */
function BandForm({ finding, units, onSet }: { finding: Finding; units: Units; onSet: () => void }) {
  const quantity = quantityOf(finding);
  const text = (v: number | null) => (v === null ? "" : show(v, quantity, units).replace(/[°%×]/, "").trim());
  const stands = { low: text(finding.low), high: text(finding.high) };
  const [texts, setTexts] = useDraft(`Band ${finding.id}, ${units}`, stands);
  const { low, high } = texts;
  const [why, setWhy] = useState<string | null>(null);
  const end = (typed: string) => (typed.trim() === "" ? null : readQuantity(typed, quantity, units));
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const [from, to] = [end(low), end(high)];
    if (typeof from === "string") setWhy(from);
    else if (typeof to === "string") setWhy(to);
    else if (from !== null && to !== null && from > to) setWhy("The low end is above the high end.");
    else {
      setTexts(stands);
      onSet();
      void setBand(finding.figure, [from, to]);
    }
  };
  return (
    <Form onSubmit={submit} aria-label="Band for this truck">
      <label>
        At least
        <input value={low} onChange={(event) => setTexts({ ...texts, low: event.target.value })} />
      </label>
      <label>
        At most
        <input value={high} onChange={(event) => setTexts({ ...texts, high: event.target.value })} />
      </label>
      <Button type="submit">Set</Button>
      {why && (
        <Trouble role="alert" style={{ gridColumn: "1 / -1" }}>
          {why}
        </Trouble>
      )}
    </Form>
  );
}

/** The mounts ranked by what one increment of each does. */
function Movers({ document, units, reading }: PaneProps & { reading: Reading }) {
  const step = increment(units, "shop");
  const key = JSON.stringify([document, step]);
  const asked = useAsked(key, (signal) => server.effects({ document, increment: step }, signal));
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  if (!asked.data)
    return (
      <p className="quiet" role="status">
        Finding what moves it…
      </p>
    );
  const strong = (asked.data[reading.id] ?? []).filter(
    (e) => showChange(e.change, reading.quantity, units) !== "same" || Math.abs(e.change) > 1e-3,
  );
  return (
    <div data-stale={asked.key !== key}>
      <p className="quiet">What moves it, for each {length(step, units)}:</p>
      {strong.length === 0 && <p>No free mount does.</p>}
      <List aria-label="What moves it">
        {strong.slice(0, 6).map((effect) => (
          <li key={effect.axis + effect.mounts.join()}>
            <span>
              {mountWords(document, effect.mounts)} {wayWords(document, effect.mounts, effect.axis, 1)}
            </span>
            <strong>{fine(effect.change, reading.quantity, units)}</strong>
          </li>
        ))}
      </List>
    </div>
  );
}

/** A small change, one place finer than a figure itself is shown. */
function fine(change: number, quantity: Quantity, units: Units): string {
  const sign = change < 0 ? "−" : "+";
  const size = Math.abs(change);
  if (quantity === "angle") return `${sign}${size.toFixed(2)}°`;
  if (quantity === "percent") return `${sign}${size.toFixed(1)} %`;
  if (quantity === "ratio") return `${sign}${size.toFixed(3)} ×`;
  return units === "mm" ? `${sign}${size.toFixed(1)} mm` : `${sign}${(size / 25.4).toFixed(2)} in`;
}
