/** The chosen mount as a shop measures it, to read and to type. It stands where a drawing has its title block. */

import { memo, useState } from "react";
import styled from "styled-components";

import {
  AXES,
  type Axis,
  type Document,
  isPaired,
  locksOf,
  mirrorOf,
  type Spot,
  mountLabel,
  spotsOf,
  type Point,
  withLock,
  withPairing,
  words,
} from "../../document/document";
import { theRegister } from "../../api/register";
import { QUANTITIES, show } from "../../figures/readings";
import { useDesign } from "../../shell/design";
import type { Schemas } from "../../api/client";
import type { Solved } from "../../shell/solver";
import { Choice, Toggle } from "../../ui/controls";
import { length, plain, readTape, type Units } from "../../units/tape";
import { Joint } from "./Joint";

const Sheet = styled.section`
  display: grid;
  gap: 7px;
  align-content: start;
  padding: 8px 16px;
  h2 {
    font-size: 17px;
    font-weight: 600;
  }
  .line {
    display: flex;
    gap: 8px;
    align-items: center;
    flex-wrap: wrap;
  }
  .quiet {
    color: var(--quiet);
    font-size: 14px;
  }
  table {
    border-collapse: collapse;
    width: 100%;
    font-size: 14px;
  }
  th,
  td {
    text-align: right;
    font-weight: 400;
    padding: 2px 0;
    border-bottom: 1px solid var(--hair);
  }
  thead th {
    color: var(--quiet);
  }
  tr > :first-child {
    text-align: left;
  }
`;

const Reads = styled.section`
  display: grid;
  grid-template-columns: 1fr 1fr;
  column-gap: 20px;
  font-size: 14px;
  div {
    display: flex;
    justify-content: space-between;
    align-items: center;
    border-bottom: 1px solid var(--hair);
  }
  p {
    grid-column: 1 / -1;
  }
  button {
    border: 0;
    padding: 4px 0;
    min-height: 32px;
    background: none;
    color: inherit;
    font-size: 14px;
    text-align: left;
    text-decoration: underline dotted;
    text-underline-offset: 3px;
    cursor: pointer;
  }
`;

const Row = styled.label`
  display: grid;
  grid-template-columns: 8em minmax(0, 1fr) 74px;
  align-items: center;
  gap: 10px;
  input {
    height: 36px;
    padding: 0 10px;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
    font-size: 17px;
    font-weight: 500;
    width: 100%;
  }
  input[aria-invalid="true"] {
    border: 2px solid var(--stop);
  }
  .as {
    grid-column: 2 / -1;
    font-size: 14px;
    color: var(--quiet);
  }
  .why {
    grid-column: 2 / -1;
    color: var(--stop);
    font-size: 14px;
  }
`;

export function MountSheet(props: {
  document: Document;
  solved: Solved | null;
  units: Units;
  selected: Spot | null;
  /** How many mounts are chosen beside it. */
  others: number;
  onSelect: (key: string) => void;
  onPlace: (mount: Spot, at: Point) => void;
}) {
  const { document, selected, units } = props;
  const mounts = spotsOf(document);
  const twin = selected ? mirrorOf(document, selected) : undefined;
  const paired = selected !== null && isPaired(document, selected);
  return (
    <Sheet aria-label="Mount">
      <Chooser
        names={mounts.map((m) => `${m.key}\t${mountLabel(m)}`).join("\n")}
        selected={selected?.key ?? null}
        onSelect={props.onSelect}
      />
      {selected ? (
        <>
          {FIELDS.map((field) => (
            <Figure
              key={field.axis}
              field={field}
              mount={selected}
              units={units}
              locked={locksOf(document, selected).includes(AXES[field.axis])}
              onPlace={props.onPlace}
            />
          ))}
          <div className="line">
            <Joint document={document} mount={selected} units={units} />
            {twin && <Pairing mount={selected.key} paired={paired} />}
            <span className="quiet">
              {props.others > 0
                ? `${props.others} more chosen: they move as one.`
                : twin
                  ? ""
                  : "It has no mirror image, so it moves alone."}
            </span>
          </div>
        </>
      ) : (
        <p className="quiet">
          Take hold of a joint in any view, or choose one here. Ctrl chooses another with it. Arrow keys
          nudge; Shift is finer, Alt is coarser.
        </p>
      )}
      {props.solved && <LinkTable links={props.solved.answer.links} units={units} />}
      {props.solved && <OnlyRead read={props.solved.answer.read} units={units} />}
    </Sheet>
  );
}

function LinkTable({ links, units }: { links: Schemas["LinkFigures"][]; units: Units }) {
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">At ride</th>
          <th scope="col">Center to center</th>
          <th scope="col">From the side</th>
          <th scope="col">In plan</th>
        </tr>
      </thead>
      <tbody>
        {links.map((link) => (
          <tr key={link.id}>
            <th scope="row">{words(link.id)}</th>
            <td>{length(link.length, units)}</td>
            <td>{link.side_angle === null ? "end on" : `${plain(link.side_angle, 1)}°`}</td>
            <td>{link.plan_angle === null ? "end on" : `${plain(link.plan_angle, 1)}°`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Figures that nobody judges, because what they do shows in those that are: each with what it means a tap away. */
function OnlyRead({ read, units }: { read: Record<string, number | null>; units: Units }) {
  const [open, setOpen] = useState<string | null>(null);
  const shown = theRegister().figures.filter((f) => !f.row && typeof read[f.id] === "number");
  const meant = shown.find((f) => f.id === open);
  if (shown.length === 0) return null;
  return (
    <Reads aria-label="To read, not judged">
      {shown.map((figure) => (
        <div key={figure.id}>
          <button
            type="button"
            aria-expanded={open === figure.id}
            onClick={() => setOpen(open === figure.id ? null : figure.id)}
          >
            {figure.short}
          </button>
          <span>{show(read[figure.id], QUANTITIES[figure.unit], units)}</span>
        </div>
      ))}
      {meant && (
        <p className="quiet">
          {meant.name}. {meant.meaning}
        </p>
      )}
    </Reads>
  );
}

/** `names`: a mount a line, key and name; one text, so that a drag that renames nothing redraws nothing here. */
const Chooser = memo(function Chooser(props: {
  names: string;
  selected: string | null;
  onSelect: (key: string) => void;
}) {
  return (
    <div className="line">
      <Choice
        label="Mount"
        placeholder="Choose a mount"
        value={props.selected}
        options={props.names.split("\n").map((line) => line.split("\t") as [string, string])}
        onChange={props.onSelect}
      />
    </div>
  );
});

/** Edit the document as it stands, about one of its mounts. */
function editMount(key: string, change: (document: Document, mount: Spot) => Document) {
  const { document, edit } = useDesign.getState();
  const mount = document && spotsOf(document).find((m) => m.key === key);
  if (document && mount) edit(change(document, mount));
}

const Lock = memo(function Lock(props: { mount: string; axis: Axis; name: string; locked: boolean }) {
  const { mount, axis, locked } = props;
  return (
    <Toggle
      aria-label={`${locked ? "Locked" : "Lock"}: ${props.name}`}
      isSelected={locked}
      onChange={(on) => editMount(mount, (document, m) => withLock(document, m, axis, on))}
    >
      {locked ? "Locked" : "Lock"}
    </Toggle>
  );
});

const Pairing = memo(function Pairing({ mount, paired }: { mount: string; paired: boolean }) {
  return (
    <Toggle
      isSelected={paired}
      onChange={(on) => editMount(mount, (document, m) => withPairing(document, m, on))}
    >
      Left and right together
    </Toggle>
  );
});

interface Field {
  axis: 0 | 1 | 2;
  name: (mount: Spot) => string;
  sign: (mount: Spot) => 1 | -1;
}

const FIELDS: Field[] = [
  { axis: 2, name: () => "Off the floor", sign: () => 1 },
  { axis: 0, name: () => "Ahead of the axle", sign: () => 1 },
  {
    axis: 1,
    name: (m) => (m.at[1] < 0 ? "Out to the right" : "Out to the left"),
    sign: (m) => (m.at[1] < 0 ? -1 : 1),
  },
];

interface FigureProps {
  field: Field;
  mount: Spot;
  units: Units;
  locked: boolean;
  onPlace: (mount: Spot, at: Point) => void;
}

/** What is typed of one coordinate, how it is understood, and taking or dropping it. */
function useTyped({ field, mount, units, onPlace }: FigureProps) {
  const [draft, setDraft] = useState<{ key: string; text: string } | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const sign = field.sign(mount);
  const stands = sign * mount.at[field.axis];
  const typing = draft?.key === mount.key ? draft.text : null;
  const understood = typing === null ? null : readTape(typing, units);
  const put = (text: string) => {
    setWhy(null);
    setDraft({ key: mount.key, text });
  };
  const drop = () => {
    setDraft(null);
    setWhy(null);
  };
  const take = () => {
    if (typing === null) return;
    const typed = readTape(typing, units);
    if (typed.kind === "refused") {
      setWhy(typed.why);
      return;
    }
    const at = [...mount.at] as Point;
    at[field.axis] = sign * (typed.kind === "change" ? stands + typed.mm : typed.mm);
    drop();
    onPlace(mount, at);
  };
  return { stands, typing, understood, why, put, take, drop };
}

function Figure(props: FigureProps) {
  const { field, mount, units, locked } = props;
  const { stands, typing, understood, why, put, take, drop } = useTyped(props);
  return (
    <Row as="div">
      <label htmlFor={`mount-${field.axis}`}>{field.name(mount)}</label>
      <input
        id={`mount-${field.axis}`}
        readOnly={locked}
        value={typing ?? length(stands, units)}
        inputMode="text"
        spellCheck={false}
        autoComplete="off"
        data-axis={"xyz"[field.axis]}
        aria-invalid={typing !== null && why !== null}
        onFocus={(event) => event.target.select()}
        onChange={(event) => put(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Enter") take();
          if (event.key === "Escape") drop();
        }}
      />
      <Lock
        mount={mount.key}
        axis={AXES[field.axis]}
        name={field.name(mount).toLowerCase()}
        locked={locked}
      />
      {typing !== null &&
        why === null &&
        understood?.kind !== "refused" &&
        /[+*×÷:'′-]|\s\D/.test(typing) && (
          <span className="as" role="status">
            = {length(understood!.kind === "change" ? stands + understood!.mm : understood!.mm, units)}
          </span>
        )}
      {typing !== null && why !== null && (
        <span className="why" role="alert">
          {why} It stays at {length(stands, units)}.
        </span>
      )}
    </Row>
  );
}
