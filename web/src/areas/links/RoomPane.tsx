/** What is in the way: keep-outs listed, added by their measures or from typical ones, left out. */

import { type SubmitEvent, useState } from "react";

import type { Document } from "../../document/document";
import { type Draft, type KeepOut, keepOutsOf, TYPICAL, withKeepOut, withoutKeepOut, withTypical } from "../../document/room"; // prettier-ignore
import { useDesign } from "../../shell/design";
import { Button, Choice, Entries, Trouble } from "../../ui/controls";
import { length, readLength, type Units } from "../../units/tape";
import { CornerPane } from "./CornerPane";

const BOX = [
  ["ahead", "Its middle, ahead"],
  ["left", "… left (right: minus)"],
  ["up", "… off the floor"],
  ["long", "Long"],
  ["wide", "Wide"],
  ["high", "High"],
] as const;
const TUBE = [
  ["ahead", "From, ahead"],
  ["left", "… left (right: minus)"],
  ["up", "… off the floor"],
  ["long", "To, ahead"],
  ["wide", "… left (right: minus)"],
  ["high", "… off the floor"],
  ["round", "Diameter"],
] as const;
type Key = (typeof TUBE)[number][0];
type Texts = Partial<Record<Key | "name" | "gap", string>>;
type Shape = "box" | "tube";
type Three = [number, number, number];

/** The keep-out that was typed; or what can't be read. */
export function keepOutOf(shape: Shape, on: KeepOut["on"], texts: Texts, units: Units): Draft | string {
  const name = (texts.name ?? "").trim();
  if (name === "") return "Give it a name.";
  const read: Partial<Record<Key, number>> = {};
  for (const [key, words] of shape === "box" ? BOX : TUBE) {
    const mm = readLength(texts[key] ?? "", units);
    if (typeof mm === "string") return `${words.replace("… ", "")}: ${mm}`;
    read[key] = mm;
  }
  const gap = texts.gap ? readLength(texts.gap, units) : 25;
  if (typeof gap === "string") return `Wanted clear of it: ${gap}`;
  if (gap < 0) return "What is wanted clear of it is not below nothing.";
  const [a, b]: [Three, Three] = [
    [read.ahead!, read.left!, read.up!],
    [read.long!, read.wide!, read.high!],
  ];
  const said = { name, on, gap, except: [] };
  if (shape === "box") {
    if (b.some((v) => v <= 0)) return "A box is longer, wider and higher than nothing.";
    return { ...said, solid: { kind: "box", center: a, size: b, turn: [0, 0, 0] } };
  }
  if (read.round! <= 0) return "A tube has a diameter.";
  if (a.every((v, n) => v === b[n])) return "Both ends of the tube are at one place.";
  return { ...said, solid: { kind: "tube", path: [a, b], diameter: read.round! } };
}

const KINDS = { box: "box", tube: "tube", prism: "prism", hull: "hull" };

/** What a keep-out is, in words. */
export function saidOf({ solid, on, gap }: KeepOut, units: Units): string {
  const size = solid.kind === "box" ? ` ${solid.size.map((v) => length(v, units)).join(" by ")}` : "";
  return `${KINDS[solid.kind]}${size}, on the ${on}, ${length(gap, units)} wanted clear`;
}

const edit = (change: (document: Document) => Document | null): boolean => {
  const { document, edit: put } = useDesign.getState();
  const next = document && change(document);
  if (next) put(next);
  return next !== null;
};

export function RoomPane(props: { document: Document; units: Units; onClose: () => void }) {
  const { document, units, onClose } = props;
  const [why, setWhy] = useState<string | null>(null);
  return (
    <CornerPane label="Room" title="What is in the way" onClose={onClose}>
      {keepOutsOf(document).length === 0 && (
        <p className="quiet">
          Nothing is said yet. Add what stands about the axle: how near everything comes to it is listed with
          the clearances, through the whole travel and twist.
        </p>
      )}
      {keepOutsOf(document).map((one) => (
        <div key={one.id} className="row">
          <span>
            {one.name || one.id} <span className="quiet">{saidOf(one, units)}</span>
          </span>
          <Button
            aria-label={`Leave out ${one.name || one.id}`}
            onPress={() => edit((now) => withoutKeepOut(now, one.id))}
          >
            Leave out
          </Button>
        </div>
      ))}
      <div className="row">
        <span className="quiet">
          Typical ones stand where they mostly are: a guess, until they are measured.
        </span>
        <Choice
          label="Add a typical one"
          value={null}
          options={Object.entries(TYPICAL).map(([key, [name]]) => [key, name] as const)}
          onChange={(which) => {
            const had = edit((now) => withTypical(now, which));
            setWhy(had ? null : "The truck’s rails are not known yet: set them under Truck.");
          }}
        />
      </div>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      <AddForm units={units} />
    </CornerPane>
  );
}

function AddForm({ units }: { units: Units }) {
  const [shape, setShape] = useState<Shape>("box");
  const [on, setOn] = useState<KeepOut["on"]>("frame");
  const [texts, setTexts] = useState<Texts>({});
  const [why, setWhy] = useState<string | null>(null);
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const one = keepOutOf(shape, on, texts, units);
    if (typeof one === "string") setWhy(one);
    else if (edit((now) => withKeepOut(now, one))) setTexts({});
  };
  const field = (key: keyof Texts, words: string) => (
    <label key={key}>
      {words}
      <input
        value={texts[key] ?? ""}
        autoComplete="off"
        spellCheck={false}
        data-keep-out-field={key}
        onChange={(event) => {
          setWhy(null);
          setTexts({ ...texts, [key]: event.target.value });
        }}
      />
    </label>
  );
  return (
    <Entries aria-label="Add a keep-out" onSubmit={submit}>
      {field("name", "Called")}
      <Choice
        label="Shape"
        value={shape}
        options={[
          ["box", "Box"],
          ["tube", "Tube"],
        ]}
        onChange={setShape}
      />
      <Choice
        label="Carried by"
        value={on}
        options={[
          ["frame", "On the frame"],
          ["axle", "On the axle"],
        ]}
        onChange={setOn}
      />
      {(shape === "box" ? BOX : TUBE).map(([key, words]) => field(key, words))}
      {field("gap", "Wanted clear of it")}
      <Button type="submit">Add it</Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </Entries>
  );
}
