/** What kind of joint a mount has, how far that turns and how much it gives; both can be set to the maker's figures. */

import { type SubmitEvent, useState } from "react";
import styled from "styled-components";

import { theRegister } from "../../api/register";
import {
  type Document,
  type JointKind,
  jointOf,
  rated,
  type Spot,
  withJoint,
  withJointKind,
} from "../../document/document";
import { useDesign } from "../../state/design";
import { useDraft } from "../../state/drafts";
import { Button, Choice, Entries, Trouble } from "../../ui/controls";
import { forceUnit, readForce, showForce } from "../../units/forces";
import { length, plain, readLength, type Units } from "../../units/tape";

/** On a line of its own, below what stands beside the choice. */
const Figures = styled.span`
  order: 2;
  flex-basis: 100%;
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 0.5rem;
  font-size: 0.875rem;
  color: var(--quiet);
  button {
    border: 0;
    padding: 0;
    min-height: 2rem;
    background: none;
    color: inherit;
    font-size: 0.875rem;
    text-decoration: underline dotted;
    text-underline-offset: 3px;
    cursor: pointer;
    white-space: nowrap;
  }
`;

const UNSAID = "not said";

/** The catalog's entries with the design's own before the generic ones, by id. */
export function jointKinds(document: Document): Map<string, JointKind> {
  const generic = theRegister().joints.map(({ id, ...kind }) => [id, kind] as const);
  const own = Object.entries(document.joints ?? {});
  return new Map([...generic, ...own.map(([id, kind]) => [id, { ...kind, name: kind.name || id }] as const)]);
}

export function Joint({ document, mount, units }: { document: Document; mount: Spot; units: Units }) {
  const [editing, setEditing] = useState<string | null>(null);
  const entry = jointOf(document, mount);
  if (entry === undefined) return null;
  const kinds = jointKinds(document);
  const kind = entry === null ? undefined : kinds.get(entry);
  const options: [string, string][] = [
    [UNSAID, "Not said"],
    ...[...kinds].map(([id, k]) => [id, k.name] as [string, string]),
  ];
  if (entry !== null && !kind) options.push([entry, `${entry}, in no catalog`]);
  const choose = (next: string) => {
    setEditing(null);
    useDesign.getState().edit(withJoint(document, mount, next === UNSAID ? null : next));
  };
  return (
    <>
      <Choice label="Joint" value={entry ?? UNSAID} options={options} onChange={choose} />
      {entry !== null && kind && editing !== entry && (
        <Figures>
          turns {plain(kind.limit, 1)}°, gives {length(kind.give, units)}
          {kind.rating ? `, carries ${showForce(kind.rating, units)}` : ""}
          <button type="button" onClick={() => setEditing(entry)}>
            Check: maker’s figures
          </button>
        </Figures>
      )}
      {entry !== null && kind && editing === entry && (
        <KindForm
          document={document}
          entry={entry}
          kind={kind}
          units={units}
          onSet={() => setEditing(null)}
        />
      )}
    </>
  );
}

/** How far this kind of joint turns and gives, and what it is rated for, for the whole design. */
function KindForm(props: {
  document: Document;
  entry: string;
  kind: JointKind;
  units: Units;
  onSet: () => void;
}) {
  const { document, entry, kind, units, onSet } = props;
  const stands = {
    limit: plain(kind.limit, 1),
    give: length(kind.give, units),
    rating: kind.rating ? showForce(kind.rating, units) : "",
  };
  const [texts, setTexts] = useDraft(`Joint ${entry}, ${units}`, stands);
  const { limit, give, rating } = texts;
  const [why, setWhy] = useState<string | null>(null);
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const carries = rating.trim() === "" ? null : readForce(rating, units);
    const turns = Number(limit.replace(/°$/, ""));
    const gives = readLength(give, units);
    if (limit.trim() === "" || !(turns > 0 && turns <= 90)) setWhy("It turns between 0 and 90 degrees.");
    else if (typeof gives === "string") setWhy(gives);
    else if (gives < 0 || gives > 100) setWhy("It gives between 0 and 100 mm.");
    else if (typeof carries === "string") setWhy(carries);
    else if (carries !== null && carries <= 0)
      setWhy("It is rated for more than nothing; leave it empty if not known.");
    else {
      const kept = rated({ ...kind, limit: turns, give: gives }, carries);
      useDesign.getState().edit(withJointKind(document, entry, kept));
      setTexts(stands);
      onSet();
    }
  };
  return (
    <Entries onSubmit={submit} aria-label={`Figures of ${kind.name}`}>
      <label>
        Turns, degrees
        <input value={limit} onChange={(event) => setTexts({ ...texts, limit: event.target.value })} />
      </label>
      <label>
        Gives
        <input value={give} onChange={(event) => setTexts({ ...texts, give: event.target.value })} />
      </label>
      <label>
        Rated for, {forceUnit(units)}
        <input
          value={rating}
          placeholder="not known"
          onChange={(event) => setTexts({ ...texts, rating: event.target.value })}
        />
      </label>
      <Button type="submit">Set for this design</Button>
      {why && <Trouble role="alert">{why}</Trouble>}
    </Entries>
  );
}
