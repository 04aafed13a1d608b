/** The chosen mount as a shop measures it, to read and to type. It stands where a drawing has its title block. */

import { memo, useState } from "react";
import styled from "styled-components";

import {
  asOther,
  AXES,
  counterpartOf,
  type Document,
  isPaired,
  locksOf,
  mirrorOf,
  type Spot,
  mountLabel,
  spotsOf,
  withPairing,
  words,
} from "../../document/document";
import { theRegister } from "../../api/register";
import type { Opened } from "../../state/areas";
import { QUANTITIES, show } from "../../figures/readings";
import type { Schemas } from "../../api/client";
import type { Solved } from "../../state/solver";
import { Button, Choice, Toggle } from "../../ui/controls";
import { figureTables } from "../../ui/tables";
import { length, plain, type Units } from "../../units/tape";
import { editMount, Figure } from "./Figure";
import { FIELDS } from "./place";
import { Joint } from "./Joint";

const Sheet = styled.section`
  display: grid;
  gap: 0.4375rem;
  align-content: start;
  padding: 0.5rem 0.75rem;
  h2 {
    font-size: 1.0625rem;
    font-weight: 600;
  }
  .line {
    display: flex;
    gap: 0.375rem;
    align-items: center;
    flex-wrap: wrap;
  }
  .chooser {
    flex-wrap: nowrap;
    button {
      padding-inline: 0.5rem;
    }
    & > :first-child {
      min-width: 0;
    }
    & > button {
      flex: none;
    }
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  ${figureTables}
  th,
  td {
    white-space: nowrap;
    padding-inline: 2px;
  }
  thead th {
    white-space: normal;
  }
`;

const Reads = styled.section`
  display: grid;
  font-size: 0.875rem;
  div {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
    border-bottom: 1px solid var(--hair);
    white-space: nowrap;
  }
  button {
    border: 0;
    padding: 4px 0;
    min-height: var(--touch);
    background: none;
    color: inherit;
    font-size: 0.875rem;
    text-align: left;
    white-space: normal;
    text-decoration: underline dotted;
    text-underline-offset: 3px;
    cursor: pointer;
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
  onOpen: (what: Opened) => void;
}) {
  const { document, selected, units } = props;
  const mounts = spotsOf(document);
  return (
    <Sheet aria-label="Mount">
      <Chooser
        onOpen={props.onOpen}
        names={mounts.map((m) => `${m.key}\t${mountLabel(m)}`).join("\n")}
        selected={selected?.key ?? null}
        onSelect={props.onSelect}
      />
      {selected ? (
        <>
          {FIELDS.map((field) => (
            <Figure
              key={`${selected.key} ${field.axis}`}
              field={field}
              mount={selected}
              units={units}
              locked={locksOf(document, selected).includes(AXES[field.axis])}
            />
          ))}
          <div className="line">
            <Joint document={document} mount={selected} units={units} />
            <Pair document={document} mount={selected} others={props.others} />
          </div>
        </>
      ) : (
        <p className="quiet">Take hold of a joint in any view, or choose one here.</p>
      )}
    </Sheet>
  );
}

/** What the links are at ride, and figures that nobody judges. */
export function AtRide({ solved, units }: { solved: Solved; units: Units }) {
  return (
    <Sheet aria-label="At ride">
      <LinkTable links={solved.answer.links} units={units} />
      <OnlyRead read={solved.answer.read} units={units} />
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
            {figure.name}
          </button>
          <span>{show(read[figure.id], QUANTITIES[figure.unit], units)}</span>
        </div>
      ))}
      {meant && <p className="quiet">{meant.meaning}</p>}
    </Reads>
  );
}

/** `names`: a mount a line, key and name; one text, so that a drag that renames nothing redraws nothing here. */
const Chooser = memo(function Chooser(props: {
  names: string;
  selected: string | null;
  onSelect: (key: string) => void;
  onOpen: (what: Opened) => void;
}) {
  return (
    <div className="line chooser">
      <Choice
        label="Mount"
        placeholder="Choose a mount"
        value={props.selected}
        options={props.names.split("\n").map((line) => line.split("\t") as [string, string])}
        onChange={props.onSelect}
      />
      <Button onPress={() => props.onOpen("tape")}>Tape sheet</Button>
      <Button onPress={() => props.onOpen("layout")}>Layout</Button>
    </div>
  );
});

/** What moves with a mount, and how its two sides are parted and brought together again. */
function Pair({ document, mount, others }: { document: Document; mount: Spot; others: number }) {
  const twin = mirrorOf(document, mount);
  const other = counterpartOf(document, mount);
  const said = !other
    ? "It has no mirror image, so it moves alone."
    : twin
      ? ""
      : "Parted: each side moves alone.";
  return (
    <>
      {twin && <Pairing mount={mount.key} paired={isPaired(document, mount)} />}
      {!twin && other && (
        <Button onPress={() => editMount(mount.key, asOther)}>
          As {other.at[1] > mount.at[1] ? "left" : "right"}
        </Button>
      )}
      <span className="quiet">{others > 0 ? `${others} more chosen: they move as one.` : said}</span>
    </>
  );
}

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
