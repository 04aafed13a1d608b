/** Marks on the frame that readings are taken to: named, and where they should stand. */

import { type SubmitEvent, useState } from "react";
import styled from "styled-components";

import { useDraft } from "../../state/drafts";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Trouble } from "../../ui/controls";
import { length, readLength, type Units } from "../../units/tape";
import { HUBS } from "./reading";
import { Form } from "./ReadingForm";

const FIELDS = [
  ["name", "Mark, called"],
  ["ahead", "Ahead of the datum"],
  ["left", "Left of center (right: minus)"],
  ["up", "Off the floor, level"],
] as const;
type Texts = Record<(typeof FIELDS)[number][0], string>;
const NOTHING: Texts = { name: "", ahead: "", left: "", up: "" };

type Mark = TruckDocument["marks"][number];

/** What is typed for a mark: a new one, or `changed`, one that is there, with the readings taken to it. */
function useMark(truck: TruckDocument, units: Units, changed: Mark | null, onDone: () => void) {
  const edit = useTruck((s) => s.edit);
  const [texts, setTexts] = useDraft(changed ? null : "mark", changed ? textsOf(changed, units) : NOTHING);
  const [why, setWhy] = useState<string | null>(null);
  const type = (key: keyof Texts, text: string) => {
    setWhy(null);
    setTexts({ ...texts, [key]: text });
  };
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const others = truck.marks.filter((one) => one.id !== changed?.id).map((one) => one.id);
    const mark = markOf(texts, units, [...others, ...HUBS]);
    if (typeof mark === "string") {
      setWhy(mark);
      return;
    }
    const next = changed ? withMark(truck, changed.id, mark) : { ...truck, marks: [...truck.marks, mark] };
    if (await edit(next)) {
      setTexts(NOTHING);
      onDone();
    }
  };
  return { texts, why, type, submit };
}

const textsOf = ({ id, at }: Mark, units: Units): Texts => ({
  name: id, ahead: length(at[0], units), left: length(at[1], units), up: length(at[2], units),
}); // prettier-ignore

/** A mark otherwise, or under another name: readings to it go along. */
export function withMark(truck: TruckDocument, was: string, mark: Mark): TruckDocument {
  const named = (id: string) => (id === was ? mark.id : id);
  return {
    ...truck,
    marks: truck.marks.map((one) => (one.id === was ? mark : one)),
    readings: truck.readings.map((one) => {
      if (one.kind === "height") return { ...one, point: named(one.point) };
      if (one.kind === "distance" || one.kind === "along" || one.kind === "across")
        return { ...one, from: named(one.from), to: named(one.to) };
      return one;
    }),
  };
}

/** Readings that are taken to a mark: without it they are to nothing. */
export const readTo = (truck: TruckDocument, id: string): string[] =>
  truck.readings
    .filter(
      (one) => ("point" in one && one.point === id) || ("from" in one && [one.from, one.to].includes(id)),
    )
    .map((one) => one.id);

function Marked(props: { truck: TruckDocument; units: Units; changed?: Mark | null; onDone?: () => void }) {
  const { truck, units, changed = null, onDone = () => undefined } = props;
  const { texts, why, type, submit } = useMark(truck, units, changed, onDone);
  return (
    <Form
      onSubmit={(event) => void submit(event)}
      aria-label={changed ? `Change ${changed.id}` : "Add a mark"}
    >
      {FIELDS.map(([key, name]) => (
        <label key={key}>
          {name}
          <input
            value={texts[key]}
            autoComplete="off"
            spellCheck={false}
            data-mark={key}
            onChange={(event) => type(key, event.target.value)}
          />
        </label>
      ))}
      <Button type="submit">{changed ? "Change it" : "Add the mark"}</Button>
      {changed && <Button onPress={onDone}>Leave it as it was</Button>}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </Form>
  );
}

export function MarkForm({ truck, units }: { truck: TruckDocument; units: Units }) {
  const edit = useTruck((s) => s.edit);
  const [changing, setChanging] = useState<string | null>(null);
  const [gone, setGone] = useState<TruckDocument | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const remove = async (id: string) => {
    const readings = readTo(truck, id);
    setWhy(readings.length > 0 ? `Readings are taken to ${id}: ${readings.join(", ")}. Delete or change them first.` : null); // prettier-ignore
    if (
      readings.length === 0 &&
      (await edit({ ...truck, marks: truck.marks.filter((one) => one.id !== id) }))
    )
      setGone(truck);
  };
  return (
    <>
      <h2>Marks on the frame</h2>
      {truck.marks.length > 0 && (
        <Marks aria-label="Marks">
          {truck.marks.map((mark) => (
            <li key={mark.id}>
              {changing === mark.id ? (
                <Marked {...{ truck, units }} changed={mark} onDone={() => setChanging(null)} />
              ) : (
                <>
                  {markWords(mark, units)}{" "}
                  <Button aria-label={`Change ${mark.id}`} onPress={() => setChanging(mark.id)}>
                    Change
                  </Button>{" "}
                  <Button aria-label={`Delete ${mark.id}`} onPress={() => void remove(mark.id)}>
                    Delete
                  </Button>
                </>
              )}
            </li>
          ))}
        </Marks>
      )}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {gone && (
        <Button
          onPress={() => void edit({ ...truck, marks: gone.marks }).then((had) => had && setGone(null))}
        >
          Bring the mark back
        </Button>
      )}
      <Marked {...{ truck, units }} />
    </>
  );
}

const Marks = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    border-bottom: 1px solid var(--hair);
    padding: 3px 0;
  }
`;

const markWords = ({ id, at }: Mark, units: Units): string =>
  `${id}: ${length(Math.abs(at[0]), units)} ${at[0] < 0 ? "behind" : "ahead of"} the datum, ${length(Math.abs(at[1]), units)} ${at[1] < 0 ? "right" : "left"}, ${length(at[2], units)} off the floor`;

/** The mark that was typed; or what is wrong with it. */
export function markOf(texts: Texts, units: Units, taken: readonly string[]) {
  const id = texts.name.trim();
  if (id === "") return "Give the mark a name.";
  if (taken.includes(id)) return `There is a point called ${id} already.`;
  const at: number[] = [];
  for (const key of ["ahead", "left", "up"] as const) {
    const mm = readLength(texts[key], units);
    if (typeof mm === "string") return `${FIELDS.find(([one]) => one === key)![1]}: ${mm}`;
    at.push(mm);
  }
  return { id, at: at as [number, number, number] };
}
