/** The chosen keep-out or zone: its name, what it is held against, its measures typed. */

import { type SubmitEvent, useState } from "react";

import { type Document, mountLabel, spotsOf } from "../../document/document";
import { boltedTo, gapOf, isShared, type KeepOut, keepOutsOf, mountsOf, shapeOf, withChanged, withMirrored, withShape, type Which, type Zone } from "../../document/room"; // prettier-ignore
import { shocksOf } from "../../document/corners";
import { pointsText, readPoints, type Region, turnOf } from "../../document/solids";
import { EditorBox } from "../../panels/EditorBox";
import { partWords } from "../../panels/Gaps";
import { useTexts } from "../../state/drafts";
import { edited, taken, useRoom } from "../../state/room";
import { SizeFields } from "../../panels/Sizes";
import { Button, Choice, Entries, Toggle, Trouble } from "../../ui/controls";
import { lengthFigure, readLength, type Units, unitSign } from "../../units/tape";

interface Of {
  document: Document;
  which: Which;
  one: KeepOut | Zone;
  units: Units;
}

type Texts = Record<string, string>;

interface Field {
  key: string;
  words: string;
  text: string;
  /** Several points, a line each. */
  long?: boolean;
}

const KINDS = {
  box: "Box",
  tube: "Tube",
  prism: "Outline drawn out",
  hull: "Hull of points",
  holes: "Row of holes",
};
const ALONG = { x: "fore-aft", y: "across", z: "up" };
const FLAT = { x: "left, off the floor", y: "ahead, off the floor", z: "ahead, left" };
const ENDS = {
  x: ["Rear end", "Front end"],
  y: ["Right end", "Left end"],
  z: ["Lower end", "Upper end"],
} as const;
const MOST_TYPED = 60;

/** What of a shape is typed, as it stands. */
export function fieldsOf(shape: Region, units: Units): Field[] {
  const fig = (mm: number) => lengthFigure(mm, units);
  if (shape.kind === "box") {
    const named = ["Middle, ahead", "… left (right: −)", "… off the floor", "Long", "Wide", "High"];
    const turn = turnOf(shape);
    return [
      ...[...shape.center, ...shape.size].map((v, n) => ({ key: `${n}`, words: named[n]!, text: fig(v) })),
      ...["Rolled, degrees", "Pitched, degrees", "Turned in plan, degrees"].map((words, n) => ({
        key: `turn${n}`, words, text: `${turn[n]!}`,
      })),
    ]; // prettier-ignore
  }
  if (shape.kind === "tube")
    return [
      { key: "round", words: "Diameter", text: fig(shape.diameter) },
      { key: "points", words: "Its path: ahead, left, off the floor, a point a line", text: pointsText(shape.path, units), long: true },
    ]; // prettier-ignore
  if (shape.kind === "prism")
    return [
      { key: "from", words: ENDS[shape.along][0], text: fig(shape.from) },
      { key: "to", words: ENDS[shape.along][1], text: fig(shape.to) },
      { key: "points", words: `Its corners: ${FLAT[shape.along]}, a point a line`, text: pointsText(shape.outline, units), long: true },
    ]; // prettier-ignore
  const points = shape.kind === "hull" ? shape.points : shape.at;
  if (points.length > MOST_TYPED) return [];
  const words = `Its ${shape.kind === "hull" ? "points" : "holes"}: ahead, left, off the floor`;
  return [{ key: "points", words: `${words}, a point a line`, text: pointsText(points, units), long: true }];
}

/** The shape as typed; or what can't be read. A figure that was not touched stays exactly what it was. */
export function shapeTyped(shape: Region, texts: Texts, units: Units): Region | string {
  const fields = new Map(fieldsOf(shape, units).map((field) => [field.key, field]));
  const mm = (key: string, stood: number): number | string => {
    const text = texts[key];
    if (text === undefined || text === fields.get(key)!.text) return stood;
    const read = readLength(text, units);
    return typeof read === "string" ? `${fields.get(key)!.words.replace("… ", "")}: ${read}` : read;
  };
  const points = (count: 2 | 3, was: readonly (readonly number[])[]) =>
    texts["points"] === undefined ? was.map((p) => [...p]) : readPoints(texts["points"], count, units, was);
  const wrong = (...values: (unknown[] | number | string)[]) =>
    values.find((value): value is string => typeof value === "string");
  if (shape.kind === "box") return boxTyped(shape, texts, mm);
  if (shape.kind === "prism") {
    const [from, to, outline] = [mm("from", shape.from), mm("to", shape.to), points(2, shape.outline)];
    return wrong(from, to, outline) ?? ({ ...shape, from, to, outline } as Region);
  }
  if (shape.kind === "tube") {
    const [diameter, path] = [mm("round", shape.diameter), points(3, shape.path)];
    return wrong(diameter, path) ?? ({ ...shape, diameter, path } as Region);
  }
  const list = points(3, shape.kind === "hull" ? shape.points : shape.at);
  if (typeof list === "string") return list;
  return { ...shape, [shape.kind === "hull" ? "points" : "at"]: list };
}

function boxTyped(
  box: Extract<Region, { kind: "box" }>,
  texts: Texts,
  mm: (key: string, stood: number) => number | string,
): Region | string {
  const read = [...box.center, ...box.size].map((v, n) => mm(`${n}`, v));
  const bad = read.find((value): value is string => typeof value === "string");
  if (bad !== undefined) return bad;
  const turn = turnOf(box).map((v, n) => {
    const text = texts[`turn${n}`];
    return text === undefined ? v : Number(text.replaceAll(/[−–]/g, "-"));
  });
  if (turn.some((v) => !Number.isFinite(v))) return "A turn is typed in degrees, like 15 or -7.5.";
  const values = read as number[];
  return { ...box, center: values.slice(0, 3), size: values.slice(3), turn } as unknown as Region;
}

const nameOf = (one: KeepOut | Zone): string => (one as { name?: string }).name ?? "";

export function Editor({ document, which, one, units }: Of) {
  const choose = useRoom((s) => s.choose);
  const shape = shapeOf(one);
  return (
    <EditorBox>
      <p className="quiet">
        {KINDS[shape.kind]}
        {shape.kind === "prism" && ` ${ALONG[shape.along]}`}
        {shape.kind === "hull" && ` (${shape.points.length})`}. Drag its bars in the views, or the cross in
        its middle, or type here ({unitSign(units)}).
      </p>
      <Measures key={`${which.list} ${which.id} ${units}`} {...{ document, which, one, units }} />
      <div className="row">
        <Button onPress={() => edited((now) => withMirrored(now, which))}>Add its mirror image</Button>
        <Button
          onPress={() => {
            edited((now) => withChanged(now, which, null));
            choose(null);
          }}
        >
          Leave it out
        </Button>
      </div>
    </EditorBox>
  );
}

/** What is typed of it and not yet taken; taken together, where the reader takes it. */
function useTyping({ which, one, units }: Omit<Of, "document">) {
  const [texts, setTexts] = useTexts(`Measures ${which.list} ${which.id}`);
  const [why, setWhy] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const put = (key: string, text: string) => {
    setWhy(null);
    setTexts({ ...texts, [key]: text });
  };
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const typed = shapeTyped(shapeOf(one), texts, units);
    const gap = gapTyped(texts, units);
    if (typeof typed === "string" || typeof gap === "string") {
      setWhy(typeof typed === "string" ? typed : (gap as string));
      return;
    }
    setBusy(true);
    const name = texts["name"]?.trim() ?? nameOf(one);
    const refused = await taken((now) => withChanged(withShape(now, which, typed), which, { name, ...gap }));
    setBusy(false);
    setWhy(refused);
    if (refused === null) setTexts({});
  };
  return { texts, why, busy, put, submit };
}

function Measures(props: Of) {
  const { document, which, one, units } = props;
  const { texts, why, busy, put, submit } = useTyping(props);
  const gap = { key: "gap", words: "Wanted clear", text: lengthFigure(gapOf(one as KeepOut), units) };
  const fields: Field[] = [
    { key: "name", words: "Called", text: nameOf(one) },
    ...(which.list === "keep_outs" ? [gap] : []),
    ...fieldsOf(shapeOf(one), units),
  ];
  return (
    <Entries aria-label="Measures" onSubmit={(event) => void submit(event)}>
      <SizeFields fields={fields} texts={texts} onPut={put} />
      <Button type="submit" className="main" isDisabled={busy || Object.keys(texts).length === 0}>
        Take it
      </Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {which.list === "zones" ? (
        <Mounts {...{ document, which, one }} />
      ) : (
        <Held {...{ document, which, one }} />
      )}
    </Entries>
  );
}

/** The gap that is wanted of a keep-out, as typed. */
function gapTyped(texts: Texts, units: Units): { gap?: number } | string {
  if (texts["gap"] === undefined) return {};
  const gap = readLength(texts["gap"], units);
  if (typeof gap === "string") return `Wanted clear: ${gap}`;
  return gap < 0 ? "What is wanted clear of it is not below nothing." : { gap };
}

/** Names out of a list, one left out at a press, others added. */
function Names(props: {
  label: string;
  nothing: string;
  names: readonly string[];
  said: (name: string) => string;
  others: readonly (readonly [string, string])[];
  onNames: (names: string[]) => void;
}) {
  const { label, nothing, names, said, others, onNames } = props;
  return (
    <div className="row" style={{ gridColumn: "1 / -1" }}>
      {names.length === 0 && <span className="quiet">{nothing}</span>}
      {names.map((name) => (
        <Button
          key={name}
          aria-label={`Leave out ${said(name)}`}
          onPress={() => onNames(names.filter((other) => other !== name))}
        >
          {said(name)} ✕
        </Button>
      ))}
      <Choice
        label={label}
        value={null}
        options={others.filter(([name]) => !names.includes(name))}
        onChange={(name) => onNames([...names, name])}
      />
    </div>
  );
}

/** What a keep-out is not held against: what is bolted to it. And what carries it. */
function Held({ document, which, one }: Omit<Of, "units">) {
  const keep = one as KeepOut;
  const parts = [
    ...document.links.map((link) => link.id),
    ...(document.lateral?.kind === "panhard" ? ["panhard"] : []),
    ...(document.lateral?.kind === "watts" ? ["watts-left", "watts-right"] : []),
    "axle-tube", "housing", "tire-left", "tire-right",
    ...(document.driveshaft ? ["shaft"] : []),
    ...(document.steering ? ["drag-link", "tie-rod"] : []),
    ...shocksOf(document).map((shock) => shock.id),
    ...keepOutsOf(document).flatMap(({ id }) => (id === which.id ? [] : [id])),
  ]; // prettier-ignore
  return (
    <>
      <Choice
        label="Carried by"
        value={keep.on}
        options={[
          ["frame", "On the frame"],
          ["axle", "On the axle"],
        ]}
        onChange={(on) =>
          edited((now) => withChanged(now, which, on === "axle" ? { on, shared: false } : { on }))
        }
      />
      {keep.on === "frame" && (
        <div style={{ gridColumn: "1 / -1" }}>
          <Toggle
            isSelected={isShared(keep)}
            onChange={(shared) => edited((now) => withChanged(now, which, { shared }))}
          >
            The truck’s: in the way of both axles and every alternative
          </Toggle>
        </div>
      )}
      <Names
        label="Bolted to it"
        nothing="Nothing is bolted to it: everything is held against it."
        names={boltedTo(keep)}
        said={(name) => partWords(document, name)}
        others={parts.map((name) => [name, partWords(document, name)] as const)}
        onNames={(except) => edited((now) => withChanged(now, which, { except }))}
      />
    </>
  );
}

/** The mounts that belong in a zone. */
function Mounts({ document, which, one }: Omit<Of, "units">) {
  const spots = spotsOf(document);
  const said = (name: string) => {
    const spot = spots.find((other) => other.name === name);
    return spot ? mountLabel(spot) : `${name} (not there)`;
  };
  return (
    <Names
      label="Add a mount"
      nothing="It is for no mount yet."
      names={mountsOf(one as Zone)}
      said={said}
      others={spots.map((spot) => [spot.name, mountLabel(spot)] as const)}
      onNames={(mounts) => edited((now) => withChanged(now, which, { mounts }))}
    />
  );
}
