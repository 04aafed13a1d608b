/** Load cases of one's own: a tow hook, a winch, a jack point, as forces of the ground on the tires in a pose. */

import { type SubmitEvent, useState } from "react";

import type { Document } from "../../document/document";
import { number } from "../../document/typed";
import { EditorBox } from "../../panels/EditorBox";
import { useDraft } from "../../state/drafts";
import { useTaking } from "../../state/room";
import { Button, Entries, List, Toggle, Trouble, Typed } from "../../ui/controls";
import { forceFigure, forceUnit, readForce, showForce } from "../../units/forces";
import { length, plain, readLength, type Units } from "../../units/tape";

type Loads = NonNullable<Document["loads"]>;
export type OwnCase = Loads["cases"][number];

const BLANK = {
  name: "",
  travel: "",
  twist: "",
  left: ["", "", ""],
  right: ["", "", ""],
  driven: false,
  abuse: false,
};
type Blank = typeof BLANK;
const WAYS = ["forward", "to the left", "up"] as const;
const SIDES = ["left", "right"] as const;

const ownOf = (document: Document): readonly OwnCase[] => document.loads?.cases ?? [];

/** The case that was typed, or what is wrong with it; what is left empty is nothing. */
export function caseFrom(typed: Blank, taken: readonly OwnCase[], units: Units): OwnCase | string {
  const id = typed.name.trim();
  if (id === "") return "Give the case a name.";
  if (taken.some((one) => one.id === id)) return `There is a case called ${id} already.`;
  const read = (words: string, text: string, reads: (text: string) => number | string): number | string => {
    const value = text.trim() === "" ? 0 : reads(text);
    return typeof value === "string" ? `${words}: ${value}` : value;
  };
  const travel = read("Travel", typed.travel, (text) => readLength(text, units));
  const articulation = read("Articulation", typed.twist, number);
  if (typeof travel === "string") return travel;
  if (typeof articulation === "string") return articulation;
  const forces: number[][] = [];
  for (const side of SIDES) {
    const three = typed[side].map((text, n) =>
      read(`${side === "left" ? "Left" : "Right"} tire, ${WAYS[n]!}`, text, (one) => readForce(one, units)),
    );
    const wrong = three.find((one) => typeof one === "string");
    if (typeof wrong === "string") return wrong;
    forces.push(three as number[]);
  }
  if (forces.flat().every((force) => force === 0)) return "Give the case a force.";
  const [left, right] = forces as [OwnCase["left"], OwnCase["right"]];
  return { id, travel, articulation, left, right, driven: typed.driven, abuse: typed.abuse };
}

/** "2 in of bump; left tire 450 lb forward, 900 lb up". */
export function caseSaid(one: OwnCase, units: Units): string {
  const pose = [
    one.travel !== 0 && `${length(Math.abs(one.travel), units)} of ${one.travel < 0 ? "droop" : "bump"}`,
    one.articulation !== 0 && `${plain(Math.abs(one.articulation), 1)}° of articulation`,
  ].filter(Boolean);
  const back = ["backward", "to the right", "down"];
  const forces = SIDES.map((side) => {
    const said = one[side].flatMap((force, n) =>
      force === 0 ? [] : [`${showForce(Math.abs(force), units)} ${(force > 0 ? WAYS : back)[n]!}`],
    );
    return `${side} tire ${said.join(", ") || "nothing"}`;
  });
  const flags = [one.driven && "driven", one.abuse && "abuse"].filter(Boolean);
  return [pose.join(", ") || "at ride", ...forces, ...flags].join("; ");
}

/** `standing`: what each tire stands on the ground with, N, where that is known: a case begins from it. */
export function OwnCases(props: { document: Document; units: Units; standing: number | null }) {
  const { document, units, standing } = props;
  const { why, setWhy, take } = useTaking();
  const up = standing === null ? "" : forceFigure(standing, units);
  const blank: Blank = { ...BLANK, left: ["", "", up], right: ["", "", up] };
  const [typed, setTyped] = useDraft("load case", blank);
  const [open, setOpen] = useState(false);
  const own = ownOf(document);
  const put = (cases: readonly OwnCase[]) =>
    take((now) => ({ ...now, loads: { ...now.loads, cases: [...cases] } as Loads }));
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const next = caseFrom(typed, own, units);
    if (typeof next === "string") setWhy(next);
    else if (await put([...own, next])) setTyped(blank);
  };
  return (
    <EditorBox>
      <h2>Cases of your own</h2>
      {own.length > 0 && (
        <List aria-label="Cases of your own">
          {own.map((one) => (
            <li key={one.id}>
              <strong>{one.id}</strong>: {caseSaid(one, units)}.{" "}
              <Button
                aria-label={`Leave out ${one.id}`}
                onPress={() => void put(own.filter(({ id }) => id !== one.id))}
              >
                Leave out
              </Button>
            </li>
          ))}
        </List>
      )}
      <Toggle isSelected={open} onChange={setOpen}>
        A tow hook, a winch, a jack point
      </Toggle>
      {open && <CaseForm {...{ typed, units }} onType={setTyped} onSubmit={(event) => void submit(event)} />}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
}

function CaseForm(props: {
  typed: Blank;
  units: Units;
  onType: (next: Blank) => void;
  onSubmit: (event: SubmitEvent) => void;
}) {
  const { typed, units, onType, onSubmit } = props;
  const tire = (side: "left" | "right") =>
    WAYS.map((way, n) => (
      <Typed
        key={`${side} ${way}`}
        words={`${side === "left" ? "Left" : "Right"} tire, ${way}, ${forceUnit(units)}`}
        value={typed[side][n]!}
        onChange={(text) => onType({ ...typed, [side]: typed[side].map((old, k) => (k === n ? text : old)) })}
      />
    ));
  return (
    <Entries aria-label="A case of your own" onSubmit={onSubmit}>
      <p style={{ gridColumn: "1 / -1" }}>
        What the ground does to each tire in that pose, beginning with what stands on it. What pulls on the frame pushes the tires the other way:{" "}
        {forceFigure(1000, units)} {forceUnit(units)} on a rear hook, straight back, is half of that forward at
        each tire that holds it.
      </p>
      <Typed words="Called" value={typed.name} onChange={(name) => onType({ ...typed, name })} />
      <Typed words="At travel, bump +" value={typed.travel} onChange={(travel) => onType({ ...typed, travel })} />
      <Typed words="Articulation, °" value={typed.twist} onChange={(twist) => onType({ ...typed, twist })} />
      {tire("left")}
      {tire("right")}
      <Toggle isSelected={typed.driven} onChange={(driven) => onType({ ...typed, driven })}>
        By the drive
      </Toggle>
      <Toggle isSelected={typed.abuse} onChange={(abuse) => onType({ ...typed, abuse })}>
        Abuse: 1.25 is wanted
      </Toggle>
      <Button type="submit" className="main">
        Add the case
      </Button>
    </Entries>
  );
} // prettier-ignore
