/** The truss over the axle tube: put there, sized, and its corners typed; they are dragged on the floor too. */

import { useState } from "react";

import type { Document } from "../../document/document";
import { type Field, numeric } from "../../document/typed";
import { EditorBox } from "../../panels/EditorBox";
import { Sizes } from "../../panels/Sizes";
import { takeAddition } from "../../state/taking";
import { Button, Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { lengthFigure, readLength, type Units } from "../../units/tape";
import { Faults } from "./Faults";
import { FlatPlate } from "./FlatPlate";
import type { CutOut } from "./plate";
import { area, mass } from "./said";
import {
  type Corner,
  type Truss,
  trussOf,
  withCorner,
  withMoreCorners,
  withoutCorner,
  withTruss,
} from "./truss";

type Take = (change: (document: Document) => Document) => Promise<boolean>;

interface Given {
  document: Document;
  units: Units;
  found: CutOut | null;
  take: Take;
}

export function TrussDrawn({ document, units, found, take }: Given) {
  const [why, setWhy] = useState<string | null>(null);
  const truss = trussOf(document);
  const put = (change: (truss: Truss) => Truss | null) =>
    take((now) => {
      const stands = trussOf(now);
      return stands ? withTruss(now, change(stands)) : now;
    });
  return (
    <EditorBox>
      <h2>Truss</h2>
      <Faults of={found} within={/^truss/} units={units} />
      {truss === null ? (
        <Button onPress={() => void takeAddition("truss").then(setWhy)}>
          Draw a truss over the axle tube
        </Button>
      ) : (
        <>
          {found && <AsCut {...{ found, units }} />}
          <Sizes
            of="truss"
            label="Truss"
            submit="Take these"
            fields={trussFields(truss, units)}
            part={truss}
            onWhy={setWhy}
            onTake={(sizes) => put(() => sizes)}
          />
          <div className="row">
            <Button onPress={() => void put(withMoreCorners)}>One corner more</Button>
            {truss.top.length > 2 && (
              <Button onPress={() => void put((now) => withoutCorner(now, Math.floor(now.top.length / 2)))}>
                One corner fewer
              </Button>
            )}
            <Button onPress={() => void take((now) => withTruss(now, null))}>Leave the truss out</Button>
          </div>
          <p className="quiet">
            Corners are of the sides’ top edge; the strips lie on it. A bracket stands on it as on a face.
            What it adds to the axle’s strength is not reckoned here.
          </p>
        </>
      )}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
}

function AsCut({ found, units }: { found: CutOut; units: Units }) {
  if (found.truss.length === 0) return null;
  return (
    <>
      <div className="row">
        {found.truss.filter(({ same_as }) => same_as === null).map((plate) => (
          <FlatPlate key={plate.part} plate={plate} />
        ))}
      </div>
      <FigureSection
        title="As cut"
        head={["", "Area", "Mass"]}
        rows={found.truss.map((plate) => [
          plate.same_as ? `${plate.part}, as ${plate.same_as}` : plate.part,
          area(plate.area, units),
          mass(plate.mass, units),
        ])}
      />
    </>
  ); // prettier-ignore
}

function trussFields(truss: Truss, units: Units): Field<Truss>[] {
  const one = (key: "width" | "ahead" | "plate", name: string): Field<Truss> =>
    numeric(key, name, lengthFigure(truss[key], units), (text) => readLength(text, units), (part, value) => ({ ...part, [key]: value })); // prettier-ignore
  const corner = (n: number, axis: 0 | 1, name: string): Field<Truss> =>
    numeric(`${n} ${axis}`, name, lengthFigure(truss.top[n]![axis], units), (text) => readLength(text, units), (part, value) => {
      const at = part.top[n]!;
      const to: Corner = axis === 0 ? [value, at[1]] : [at[0], value];
      return value === at[axis] ? part : withCorner(part, n, to);
    }); // prettier-ignore
  return [
    one("plate", "Plate"),
    one("width", "Width over its sides"),
    one("ahead", "Middle ahead of the tube"),
    ...truss.top.flatMap((_, n) => [
      corner(n, 0, `Corner ${n + 1}, left of center`),
      corner(n, 1, `Corner ${n + 1}, off the floor`),
    ]),
  ];
}
