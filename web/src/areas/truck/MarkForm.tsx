/** Marks on the frame that readings are taken to: named, and where they should stand. */

import { type SubmitEvent, useState } from "react";

import { type TruckDocument, useTruck } from "../../shell/truck";
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

export function MarkForm({ truck, units }: { truck: TruckDocument; units: Units }) {
  const edit = useTruck((s) => s.edit);
  const [texts, setTexts] = useState(NOTHING);
  const [why, setWhy] = useState<string | null>(null);
  const marks = truck.marks;
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const mark = markOf(texts, units, [...marks.map((one) => one.id), ...HUBS]);
    if (typeof mark === "string") setWhy(mark);
    else if (await edit({ ...truck, marks: [...marks, mark] })) setTexts(NOTHING);
  };
  return (
    <>
      <h2>Marks on the frame</h2>
      {marks.length > 0 && (
        <ul aria-label="Marks">
          {marks.map(({ id, at }) => (
            <li key={id}>
              {id}: {length(Math.abs(at[0]), units)} {at[0] < 0 ? "behind" : "ahead of"} the datum,{" "}
              {length(Math.abs(at[1]), units)} {at[1] < 0 ? "right" : "left"}, {length(at[2], units)} off the
              floor
            </li>
          ))}
        </ul>
      )}
      <Form onSubmit={(event) => void submit(event)} aria-label="Add a mark">
        {FIELDS.map(([key, name]) => (
          <label key={key}>
            {name}
            <input
              value={texts[key]}
              autoComplete="off"
              spellCheck={false}
              data-mark={key}
              onChange={(event) => {
                setWhy(null);
                setTexts({ ...texts, [key]: event.target.value });
              }}
            />
          </label>
        ))}
        <Button type="submit">Add the mark</Button>
        {why !== null && <Trouble role="alert">{why}</Trouble>}
      </Form>
    </>
  );
}

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
