/** Figures on a drawing, each at its place with a mark for where it comes from; pressed, one is set there. */

import { useState } from "react";
import { UNSAFE_PortalProvider as InPlace } from "react-aria";
import { Button as AriaButton, Dialog, DialogTrigger, Toolbar } from "react-aria-components";
import styled from "styled-components";

import type { Schemas } from "../../api/client";
import { theRegister } from "../../api/register";
import { capital } from "../../document/parts";
import { showTruck } from "../../figures/truck";
import type { Xy } from "../../floor/geometry";
import {
  type Source,
  sourceOf,
  TableOfFigures,
  TypedRow,
  useTyping,
  valueAt,
} from "../../panels/TruckFigures";
import type { TruckDocument } from "../../state/truck";
import { Drop } from "../../ui/menu";
import type { Units } from "../../units/tape";

/** A figure by its path in the truck's file, the word before it, and where its middle stands, px. */
export interface Chip {
  path: string;
  before: string;
  at: Xy;
}

const MARKS: Record<Source, string> = { measured: "●", catalog: "◆", guessed: "?" };

const Layer = styled(Toolbar)`
  position: absolute;
  inset: 0;
  pointer-events: none;
  button {
    pointer-events: auto;
    position: absolute;
    transform: translate(-50%, -50%);
    min-height: 1.75rem;
    padding: 0 0.5rem;
    white-space: nowrap;
    font-size: 0.875rem;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
    cursor: pointer;
  }
  button[data-hovered],
  button[aria-expanded="true"] {
    border-color: var(--accent);
    color: var(--accent);
  }
  button[data-source="guessed"] {
    border-style: dashed;
  }
  @media (pointer: coarse) {
    button {
      min-height: 2.25rem;
    }
  }
  i {
    font-style: normal;
    color: var(--quiet);
  }
  b {
    font-weight: 600;
  }
`;

const Setting = styled(Dialog)`
  padding: 0.75rem 0.875rem;
  width: 25rem;
  max-width: 92vw;
  outline: none;
`;

type Figure = Schemas["TruckFigure"];

export function Chips({
  truck,
  units,
  chips,
}: {
  truck: TruckDocument;
  units: Units;
  chips: readonly Chip[];
}) {
  const known = new Map(theRegister().truck.map((figure) => [figure.path, figure]));
  // what drops from a figure stands in the page's main part, as the figure does
  return (
    <InPlace getContainer={() => window.document.querySelector("main")}>
    <Layer aria-label="Figures in force" orientation="vertical">
      {chips.map((chip) => {
        const figure = known.get(chip.path);
        return figure && typeof valueAt(truck, chip.path) === "number" ? (
          <OneChip key={chip.path} {...{ truck, units, chip, figure }} />
        ) : null;
      })}
    </Layer>
    </InPlace>
  ); // prettier-ignore
}

function OneChip({ truck, units, chip, figure }: { truck: TruckDocument; units: Units; chip: Chip; figure: Figure }) {
  const [open, setOpen] = useState(false);
  const shown = { figure, units, document: truck };
  const typing = useTyping(shown);
  const source = sourceOf(truck, chip.path);
  const value = showTruck(valueAt(truck, chip.path), figure.unit, units);
  const [left, top] = chip.at;
  return (
    <DialogTrigger isOpen={open} onOpenChange={(next) => setOpen(next || !typing.leave())}>
      <AriaButton
        style={{ left, top }}
        data-chip={chip.path}
        data-source={source}
      >
        <span className="spoken">{capital(figure.words)}: </span>
        <i aria-hidden="true">{chip.before} </i>
        <b>{value}</b>
        <i aria-hidden="true"> {MARKS[source]}</i>
        <span className="spoken">, {source}</span>
      </AriaButton>
      <Drop>
        <Setting aria-label={capital(figure.words)}>
          <TableOfFigures>
            <TypedRow {...shown} typing={typing} />
          </TableOfFigures>
        </Setting>
      </Drop>
    </DialogTrigger>
  );
} // prettier-ignore

/** What the marks mean. */
export const MARKED = `${MARKS.measured} measured, ${MARKS.catalog} from a catalog, ${MARKS.guessed} guessed`;
